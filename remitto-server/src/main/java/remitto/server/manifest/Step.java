package remitto.server.manifest;

import remitto.server.platform.Personal;

/**
 * What one step of a rule made of a value.
 *
 * @param step what it is called
 * @param detail what it went by
 * @param value as it was after the step
 */
public record Step(
        String step,
        @Personal(Personal.Part.IN_TEXT) String detail,
        @Personal String value) {}
