package remitto.server.definition;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;

/**
 * A kind of definition that is kept as files; the capability that it belongs to says how. What is refused to a person on a page is
 * refused here in the same words, and what is written in the journal there is written here.
 *
 * @param <T> what a file of it says: a record, whose members {@link ReferenceMembers} knows hold ids of other definitions
 */
public interface DefinitionKind<T extends Record> {
    /**
     * What kind it is.
     *
     * @param kind what it is called where a file begins, such as {@code match-rules}
     * @param folder that its files are in, such as {@code datasets}
     * @param place where it stands in the order of the work; what is earlier never needs what is later, unless it refers to it
     * @param isVersioned whether changes are saved as versions that are put in service; otherwise a change counts at once
     */
    record Form<T extends Record>(String kind, String folder, Class<T> type, int place, boolean isVersioned) {}

    Form<T> form();

    default String kind() {
        return form().kind();
    }

    default String folder() {
        return form().folder();
    }

    default Class<T> type() {
        return form().type();
    }

    default int place() {
        return form().place();
    }

    default boolean isVersioned() {
        return form().isVersioned();
    }

    /** Whether a definition is whatever its one text says, so that its file is that text. */
    default boolean isVerbatim() {
        return false;
    }

    /** Members of the items of a list that are left out of a file where they say the usual, by the name of the list. */
    default Map<String, Map<String, String>> usual() {
        return Map.of();
    }

    /** Everything of this kind that is not archived. */
    List<Kept<T>> all();

    /** Names of what can be referred to though it has no file, by id. */
    default Map<String, String> withoutFile() {
        return Map.of();
    }

    /** Whether definitions of this kind speak of each other by what they are called, so that one has to be there before another. */
    default boolean speaksByName() {
        return false;
    }

    /** Whether one without a file can be removed; what every installation has stays. */
    default boolean isRemovable() {
        return true;
    }

    /** Whether secrets that are given are those that are kept. */
    default boolean keeps(String id, Map<String, String> secrets) {
        return secrets.isEmpty();
    }

    /**
     * Creates one.
     *
     * @return its id
     */
    String add(Change<T> change);

    /** Saves a change of one. */
    void change(String id, Change<T> change);

    /** Puts what was saved last in service. Only asked where there are versions. */
    default void putInService(String id, Change<T> change) {}

    /**
     * What to ask to see what a change would make of the rows as they are; absent where there is no such question.
     */
    default Optional<DefinitionPlan.EffectQuestion> effect(String id, T content) {
        return Optional.empty();
    }

    /** Archives or removes one. Refused with the names of its users while something uses it. */
    void remove(String id, String who);

    /**
     * A definition as it is here.
     *
     * @param inService what its version in service says; absent where none is, and where there are no versions
     */
    record Kept<T extends Record>(String id, String name, T latest, Optional<T> inService) {}

    /**
     * A change that somebody makes.
     *
     * @param slug name of its file, without folder and ending
     * @param who the id of their account
     * @param secrets by the names of settings; what is missing stays as it is
     * @param later takes work that follows once everything is saved, such as a test of a connection
     */
    record Change<T extends Record>(
            T content, String slug, String who, String note, Map<String, String> secrets, Consumer<Runnable> later) {}
}
