package remitto.server.audience;

import org.springframework.stereotype.Component;
import remitto.server.journal.Journal;

/** Saving audiences and putting them in service: checked and written in the journal, by whatever way somebody asks for it. */
@Component
class AudienceKeeping {
    private final Audiences audiences;
    private final AudienceQuestions questions;
    private final Journal journal;

    AudienceKeeping(Audiences audiences, AudienceQuestions questions, Journal journal) {
        this.audiences = audiences;
        this.questions = questions;
        this.journal = journal;
    }

    long add(Audiences.AudienceDraft draft, String who) {
        questions.ask(draft.entityType(), draft.spec());
        long id = audiences.add(draft, who);
        note(who, "saved audience", id, "version 1");
        return id;
    }

    void save(long id, Audiences.AudienceDraft draft, String who) {
        questions.ask(audiences.get(id).entityType(), draft.spec());
        int version = audiences.save(id, draft, who);
        note(who, "saved audience", id, "version " + version);
    }

    /** Who is in it is counted by whoever asks for this. */
    void putInService(long id, int version, String who) {
        audiences.version(id, version);
        audiences.putInService(id, version);
        note(who, "put audience in service", id, "version " + version);
    }

    void countFirst(long id, boolean on, String who) {
        audiences.countFirst(id, on);
        note(who, on ? "lets routes count audience first" : "lets routes send audience as counted", id, "");
    }

    void remove(long id, String who) {
        String name = audiences.get(id).name();
        audiences.remove(id);
        journal.write(who, "removed audience", new Journal.Subject("audience", id, name), "");
    }

    private void note(String who, String what, long id, String detail) {
        journal.write(
                who, what, new Journal.Subject("audience", id, audiences.get(id).name()), detail);
    }
}
