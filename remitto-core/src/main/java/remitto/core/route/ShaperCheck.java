package remitto.core.route;

import java.time.DateTimeException;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.Optional;
import remitto.core.shaper.E164;
import remitto.core.shaper.Mask;
import remitto.core.shaper.Rounded;
import remitto.core.shaper.Shaper;
import remitto.core.shaper.SpellTime;
import remitto.core.shaper.SplitList;
import remitto.core.shaper.ToDate;
import remitto.core.shaper.ToMoment;
import remitto.core.shaper.Truncate;
import remitto.core.shaper.YesNo;

/** Says what is wrong with the settings of a shaper. */
final class ShaperCheck {
    private static final int MOST_DIGITS = 12;

    private ShaperCheck() {}

    static Optional<String> fault(Shaper shaper) {
        try {
            if (shaper instanceof ToDate date) {
                return time(date.pattern(), date.zone());
            }
            if (shaper instanceof ToMoment moment) {
                return time(moment.pattern(), moment.zone());
            }
            if (shaper instanceof SpellTime spell) {
                return spell.pattern().isBlank()
                        ? Optional.of("Set the format of the time.")
                        : time(spell.pattern(), spell.zone());
            }
        } catch (DateTimeException | IllegalArgumentException e) {
            return Optional.of("The shaper " + shaper.title() + " cannot be used: " + e.getMessage());
        }
        return settings(shaper);
    }

    private static Optional<String> time(String pattern, String zone) {
        ZoneId.of(zone);
        DateTimeFormatter.ofPattern(pattern);
        return Optional.empty();
    }

    private static Optional<String> settings(Shaper shaper) {
        if (shaper instanceof E164 phone
                && !phone.country().matches("[A-Z]{2}")
                && !(phone.country().isEmpty() && !phone.countryColumn().isBlank())) {
            return Optional.of("E.164 needs a country of two letters (ISO 3166), not \"" + phone.country() + "\".");
        }
        if (shaper instanceof Truncate truncate && truncate.length() < 1) {
            return Optional.of("Keep at least one character.");
        }
        if (shaper instanceof Rounded rounded && (rounded.digits() < 0 || rounded.digits() > MOST_DIGITS)) {
            return Optional.of("A number is rounded to 0 to " + MOST_DIGITS + " digits.");
        }
        if (shaper instanceof Mask mask && mask.keep() < 0) {
            return Optional.of("A mask cannot keep a negative number of characters.");
        }
        if (shaper instanceof SplitList split && split.separator().isEmpty()) {
            return Optional.of("Set the separator of the list items.");
        }
        if (shaper instanceof YesNo words && !words.onBothSides().isEmpty()) {
            return Optional.of("These words mean both yes and no: " + String.join(", ", words.onBothSides()));
        }
        return Optional.empty();
    }
}
