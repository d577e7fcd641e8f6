package remitto.core.identity.normalise;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashSet;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import remitto.core.identity.normalise.Nicknames.Nickname;

class NicknamesTest {
    private static final Nicknames SHIPPED = Nicknames.shipped();

    @ParameterizedTest
    @CsvSource({
        // Of the published English list.
        "bill, william",
        "peggy, margaret",
        "alex, alexandra",
        "alex, alexander",
        // Both short for one name.
        "bob, rob",
        "liz, beth",
        // Of other languages, from memory.
        "kasia, katarzyna",
        "wojtek, wojciech",
        "kees, cornelis",
        "sepp, josef",
        "lotta, charlotte",
        "jussi, juhani",
        "paco, francisco",
        // Only the first of several counts, in any order of the two.
        "elizabeth ann, liz",
        "liz, liz marie",
    })
    void mayBeOne(String one, String other) {
        assertThat(SHIPPED.mayBeOne(one, other)).isTrue();
        assertThat(SHIPPED.mayBeOne(other, one)).isTrue();
    }

    @ParameterizedTest
    @CsvSource({"lars, edda", "alexander, alexandra", "william, robert", "maria, anna", "xyzzy, plugh"})
    void areOthers(String one, String other) {
        assertThat(SHIPPED.mayBeOne(one, other)).isFalse();
        assertThat(SHIPPED.mayBeOne(other, one)).isFalse();
    }

    @Test
    void whatSomebodyAddsCountsBesideWhatShips() {
        Nicknames more = SHIPPED.with(List.of(new Nickname("Bill", "Sibylle")));
        assertThat(more.mayBeOne("bill", "sibylle")).isTrue();
        assertThat(more.mayBeOne("bill", "william")).isTrue();
        assertThat(more.without(List.of("bill")).mayBeOne("bill", "william")).isFalse();
    }

    /** However it is spelled: accents and capitals say nothing. */
    @Test
    void namesAreComparedAsTheyAreTidied() {
        Nicknames names = new Nicknames(List.of(new Nickname(" J\u00FCrgi ", "J\u00FCrgen")));
        PlainText plain = new PlainText();
        assertThat(names.mayBeOne(plain.of("J\u00FCrgi"), plain.of("J\u00DCRGEN")))
                .isTrue();
    }

    @Test
    void everyLineOfTheTablesSaysSomething() {
        assertThat(SHIPPED.pairs()).hasSizeGreaterThan(2_500);
        assertThat(new HashSet<>(SHIPPED.pairs())).hasSameSizeAs(SHIPPED.pairs());
        assertThat(SHIPPED.pairs()).allSatisfy(pair -> {
            assertThat(pair.nickname()).isNotBlank().isEqualTo(pair.nickname().strip());
            assertThat(pair.name()).isNotBlank().isNotEqualTo(pair.nickname());
        });
    }
}
