package remitto.core.identity.survivorship;

import java.time.Instant;
import java.util.Optional;
import remitto.core.identity.record.RecordRef;

/**
 * What a record says of somebody's consent to one purpose by one channel.
 *
 * @param yes or no; a record that says neither is none of these
 * @param at when they said so; absent when nobody wrote it down
 * @param evidence of their saying so, such as the form's number; blank for none
 * @param expires from when a yes no longer counts
 */
public record ConsentSaid(
        RecordRef ref, boolean yes, Optional<Instant> at, String evidence, Optional<Instant> expires) {}
