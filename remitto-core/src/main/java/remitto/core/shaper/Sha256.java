package remitto.core.shaper;

import org.apache.commons.codec.digest.DigestUtils;
import remitto.core.dataset.Row;
import remitto.core.value.Value;

/** SHA-256 (FIPS 180-4) of the text in UTF-8, as 64 hexadecimal digits in lower case; of a list, item by item. */
public record Sha256() implements PureShaper {
    @Override
    public String title() {
        return "SHA-256";
    }

    @Override
    public boolean hides() {
        return true;
    }

    @Override
    public Shaped apply(Value value, Row row) {
        return PureShaper.text(value, DigestUtils::sha256Hex);
    }
}
