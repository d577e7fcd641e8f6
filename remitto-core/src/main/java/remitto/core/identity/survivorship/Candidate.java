package remitto.core.identity.survivorship;

import java.time.Instant;
import java.util.Optional;
import remitto.core.identity.record.RecordRef;

/**
 * A value of one of a person's records.
 *
 * @param value as the source spells it, not blank
 * @param normalised as it is compared; values that are the same normalised are the same value
 * @param place of the source in the order people gave, from 0
 * @param at when the source last changed the record; absent when it does not say
 * @param verified whether the source says that it was checked
 */
public record Candidate(
        RecordRef ref, String value, String normalised, int place, Optional<Instant> at, boolean verified) {}
