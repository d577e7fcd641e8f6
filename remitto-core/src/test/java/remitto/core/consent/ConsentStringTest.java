package remitto.core.consent;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.iab.gpp.encoder.GppModel;
import com.iab.gpp.encoder.section.TcfEuV2;
import com.iab.gpp.encoder.section.UsNat;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class ConsentStringTest {
    /**
     * The example strings of IAB Tech Lab's "Consent string and vendor list formats" for TCF 2 and of the GPP specification's
     * "Consent String Specification", both from memory; what they hold was read off their bits by hand.
     */
    @ParameterizedTest
    @CsvSource({
        "COvFyGBOvFyGBAbAAAENAPCAAOAAAAAAAAAAAEEUACCKAAA.IFoEUQQgAIQwgIwQABAEAAAAOIAACAIAAAAQAIAgEAACEAAAAAgAQBAAAAAAAGBAAgAAAAAAAFAAECAAAgAAQARAEQAAAAAJAAIAAgAAAYQEAAAQmAgBC3ZAYzUw, '1 2 3', 2020-02-20T23:57:39.300Z",
        "DBABMA~CPXxRfAPXxRfAAfKABENB-CgAAAAAAAAAAYgAAAAAAAA, '', 2022-04-20T22:00:00Z",
    })
    void publishedStringsAreRead(String string, String purposes, Instant saidAt) {
        ConsentString read = ConsentString.read(string);
        assertThat(read.agreed().orElseThrow())
                .containsExactlyElementsOf(java.util.Arrays.stream(purposes.split(" "))
                        .filter(text -> !text.isEmpty())
                        .map(Integer::valueOf)
                        .toList());
        assertThat(read.saidAt()).contains(saidAt);
    }

    /** Two libraries that know nothing of each other: what one writes, the other reads. */
    @Test
    void whatTheOneLibraryWritesTheOtherReads() {
        Random random = new Random(11);
        ZonedDateTime at = ZonedDateTime.of(2026, 3, 1, 0, 0, 0, 0, ZoneOffset.UTC);
        for (int world = 0; world < 200; world++) {
            List<Boolean> consents = new ArrayList<>(Collections.nCopies(24, false));
            TreeSet<Integer> agreed = new TreeSet<>();
            for (int purpose = 1; purpose <= 11; purpose++) {
                if (random.nextBoolean()) {
                    consents.set(purpose - 1, true);
                    agreed.add(purpose);
                }
            }
            GppModel model = new GppModel();
            model.setFieldValue(TcfEuV2.NAME, "PurposeConsents", consents);
            model.setFieldValue(TcfEuV2.NAME, "Created", at);
            model.setFieldValue(TcfEuV2.NAME, "LastUpdated", at);
            ConsentString alone = ConsentString.read(model.encodeSection(TcfEuV2.NAME));
            ConsentString within = ConsentString.read(model.encode());
            assertThat(alone.agreed()).contains(agreed);
            assertThat(within.agreed()).contains(agreed);
            assertThat(alone.saidAt()).contains(at.toInstant()).isEqualTo(within.saidAt());
            TreeSet<Integer> asked = new TreeSet<>(List.of(1 + random.nextInt(11), 1 + random.nextInt(11)));
            assertThat(alone.answer(asked)).contains(agreed.containsAll(asked));
            assertThat(alone.says()).hasSize(11);
        }
    }

    @Test
    void notToHaveObjectedIsNoYes() {
        GppModel silent = new GppModel();
        silent.setFieldValue(UsNat.NAME, "SaleOptOut", 2);
        silent.setFieldValue(UsNat.NAME, "SharingOptOut", 2);
        silent.setFieldValue(UsNat.NAME, "TargetedAdvertisingOptOut", 2);
        assertThat(ConsentString.read(silent.encode()).answer(new TreeSet<>(List.of(4))))
                .isEmpty();
        GppModel objects = new GppModel();
        objects.setFieldValue(UsNat.NAME, "SaleOptOut", 1);
        objects.setFieldValue(UsNat.NAME, "SharingOptOut", 2);
        objects.setFieldValue(UsNat.NAME, "TargetedAdvertisingOptOut", 1);
        ConsentString read = ConsentString.read(objects.encode());
        assertThat(read.answer(new TreeSet<>(List.of(4)))).contains(false);
        assertThat(read.says()).containsExactly("objects to sale", "objects to targeted advertising");
    }

    @Test
    void anObjectionToSharingAloneIsOne() {
        GppModel sharing = new GppModel();
        sharing.setFieldValue(UsNat.NAME, "SaleOptOut", 2);
        sharing.setFieldValue(UsNat.NAME, "SharingOptOut", 1);
        sharing.setFieldValue(UsNat.NAME, "TargetedAdvertisingOptOut", 2);
        assertThat(ConsentString.read(sharing.encode()).says()).containsExactly("objects to sharing");
    }

    @Test
    void itSaysYesWhereThePersonDidAndNoElsewhere() {
        GppModel model = new GppModel();
        List<Boolean> consents = new ArrayList<>(Collections.nCopies(24, false));
        consents.set(3, true);
        model.setFieldValue(TcfEuV2.NAME, "PurposeConsents", consents);
        List<String> says = ConsentString.read(model.encode()).says();
        assertThat(says.get(3)).startsWith("purpose 4, ").endsWith(": yes");
        assertThat(says).filteredOn(one -> one.endsWith(": no")).hasSize(10);
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "yes", "D", "COvFyGB", "BOEFEAyOEFEAyAHABDENAI4AAAB9vABAASA", "DBABMA~!", "å"})
    void anythingElseIsRefused(String text) {
        assertThatThrownBy(() -> ConsentString.read(text))
                .isInstanceOf(IllegalArgumentException.class)
                .hasMessage("This is no consent string of TCF 2 or GPP.");
    }
}
