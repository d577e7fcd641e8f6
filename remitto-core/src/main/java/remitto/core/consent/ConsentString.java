package remitto.core.consent;

import com.iab.gpp.encoder.GppModel;
import com.iab.gpp.encoder.section.TcfEuV2;
import com.iab.gpp.encoder.section.UsNat;
import com.iabtcf.decoder.TCString;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;

/**
 * What somebody said in a consent banner, read from a string of IAB's Transparency and Consent Framework (TCF 2.2, Europe) or Global
 * Privacy Platform (GPP) by the published libraries of both.
 *
 * @param form which of the two, with its version
 * @param saidAt when it was last changed, where the string says so
 * @param agreed the purposes of the framework that were agreed to, from 1; empty if the string has none of Europe
 * @param optOuts what was objected to under the laws of the United States, in words
 */
public record ConsentString(
        String form, Optional<Instant> saidAt, Optional<SortedSet<Integer>> agreed, List<String> optOuts) {
    /** As the framework's policies (version 5.0a, appendix A) name them, shortened; from memory. */
    private static final Map<Integer, String> PURPOSES = new TreeMap<>(Map.ofEntries(
            Map.entry(1, "store and read on a device"),
            Map.entry(2, "select simple advertising"),
            Map.entry(3, "build profiles for advertising"),
            Map.entry(4, "select advertising by profiles"),
            Map.entry(5, "build profiles for content"),
            Map.entry(6, "select content by profiles"),
            Map.entry(7, "measure advertising"),
            Map.entry(8, "measure content"),
            Map.entry(9, "understand audiences"),
            Map.entry(10, "improve services"),
            Map.entry(11, "select content simply")));

    private static final int OPTED_OUT = 1;

    public ConsentString {
        optOuts = List.copyOf(optOuts);
    }

    /** @throws IllegalArgumentException if it is neither */
    public static ConsentString read(String text) {
        String string = text.strip();
        try {
            return string.startsWith("D") ? gpp(string) : tcf(string);
        } catch (RuntimeException e) {
            throw new IllegalArgumentException("This is no consent string of TCF 2 or GPP.", e);
        }
    }

    private static ConsentString tcf(String string) {
        TCString said = TCString.decode(string);
        if (said.getVersion() != 2) {
            throw new IllegalArgumentException("version " + said.getVersion());
        }
        return new ConsentString(
                "TCF 2, policy " + said.getTcfPolicyVersion(),
                Optional.of(said.getLastUpdated()),
                Optional.of(new TreeSet<>(said.getPurposesConsent().toSet())),
                List.of());
    }

    private static ConsentString gpp(String string) {
        GppModel model = new GppModel(string);
        List<String> optOuts = new ArrayList<>();
        if (model.hasSection(UsNat.ID)) {
            UsNat national = model.getUsNatSection();
            objects(national.getSaleOptOut(), "sale", optOuts);
            objects(national.getSharingOptOut(), "sharing", optOuts);
            objects(national.getTargetedAdvertisingOptOut(), "targeted advertising", optOuts);
        }
        Optional<SortedSet<Integer>> agreed = Optional.empty();
        Optional<Instant> saidAt = Optional.empty();
        if (model.hasSection(TcfEuV2.ID)) {
            TcfEuV2 europe = model.getTcfEuV2Section();
            SortedSet<Integer> purposes = new TreeSet<>();
            List<Boolean> consents = europe.getPurposeConsents();
            for (int i = 0; i < consents.size(); i++) {
                if (Boolean.TRUE.equals(consents.get(i))) {
                    purposes.add(i + 1);
                }
            }
            agreed = Optional.of(purposes);
            saidAt = Optional.of(europe.getLastUpdated().toInstant());
        }
        return new ConsentString("GPP, sections " + model.getSectionIds(), saidAt, agreed, optOuts);
    }

    private static void objects(Integer value, String what, List<String> optOuts) {
        if (value != null && value == OPTED_OUT) {
            optOuts.add(what);
        }
    }

    /**
     * Whether it agrees to all of some purposes. Not to have objected, where objecting is all that the law asks for, is no yes.
     *
     * @return empty if it says nothing of it
     */
    public Optional<Boolean> answer(SortedSet<Integer> purposes) {
        if (!optOuts.isEmpty()) {
            return Optional.of(false);
        }
        return agreed.map(yes -> !purposes.isEmpty() && yes.containsAll(purposes));
    }

    /** In words, for people. */
    public List<String> says() {
        List<String> says = new ArrayList<>();
        agreed.ifPresent(yes -> PURPOSES.forEach((number, name) ->
                says.add("purpose " + number + ", " + name + ": " + (yes.contains(number) ? "yes" : "no"))));
        optOuts.forEach(what -> says.add("objects to " + what));
        return says;
    }
}
