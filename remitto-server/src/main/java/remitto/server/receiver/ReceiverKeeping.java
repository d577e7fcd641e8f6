package remitto.server.receiver;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.core.receiver.CallCheck;
import remitto.core.receiver.ReceiverDefinition;
import remitto.server.journal.Journal;
import remitto.server.landing.LandedSchema;
import remitto.server.platform.Problem;
import remitto.server.source.OwnSql;
import remitto.server.source.Sources;

/** Making receivers and changing them: checked and written in the journal, by whatever way somebody asks for it. */
@Component
class ReceiverKeeping {
    private final Receivers receivers;
    private final ReceiverTables tables;
    private final ReceiverSecrets secrets;
    private final KnownReceivers known;
    private final LandedSchema schema;
    private final Sources sources;
    private final OwnSql ownSql;
    private final Journal journal;

    ReceiverKeeping(
            Receivers receivers,
            ReceiverTables tables,
            ReceiverSecrets secrets,
            KnownReceivers known,
            LandedSchema schema,
            Sources sources,
            OwnSql ownSql,
            Journal journal) {
        this.receivers = receivers;
        this.tables = tables;
        this.secrets = secrets;
        this.known = known;
        this.schema = schema;
        this.sources = sources;
        this.ownSql = ownSql;
        this.journal = journal;
    }

    /** What a receiver is to be. */
    record Wanted(String name, long sourceId, String table, ReceiverDefinition definition) {
        Wanted {
            name = name.strip();
            table = table.strip();
        }
    }

    /** @param secret that the tool has already; absent to make one */
    @Transactional
    long add(Wanted wanted, Optional<String> secret, String who) {
        check(wanted, 0);
        if (!sources.get(wanted.sourceId()).isOfCalls()) {
            throw Problem.invalid("Receivers belong to sources of calls.");
        }
        long id = receivers.nextId();
        String code = secrets.code();
        CallCheck check = wanted.definition().check();
        receivers.add(
                id,
                wanted,
                1,
                ReceiverSecrets.hash(code),
                secrets.seal(id, new ReceiverSecrets.Known(code, secrets.given(check, secret), "", Instant.EPOCH)),
                who);
        lay(id, 1, wanted);
        known.forget();
        journal.write(who, "added receiver", subject(id, wanted.name()), words(wanted.definition()));
        return id;
    }

    /**
     * Saves another definition. Where it changes what rows are, the calls that are kept are laid out anew; until then the table shows the
     * rows as they were.
     *
     * @throws Problem if somebody saved another revision since {@code basedOn}
     */
    @Transactional
    void save(long id, int basedOn, Wanted wanted, String who) {
        Receivers.Receiver before = receivers.get(id);
        check(wanted, id);
        if (!before.table().equals(wanted.table())) {
            throw Problem.conflict("The table stays, since queries name it; add another receiver.");
        }
        if (before.sourceId() != wanted.sourceId()) {
            throw Problem.conflict("A receiver stays with its source; add another receiver.");
        }
        if (wanted.definition().isCatching() && !before.catching()) {
            throw Problem.invalid("Choose at least one column. To see new samples, open the last calls.");
        }
        boolean anew = !meaning(before.definition()).equals(meaning(wanted.definition()));
        int revision = basedOn + (anew ? 1 : 0);
        receivers.save(id, basedOn, revision, wanted, who);
        CallCheck check = wanted.definition().check();
        boolean otherCheck = !kind(before.definition().check()).equals(kind(check));
        if (otherCheck) {
            secrets.replace(id, secrets.fresh(check), false);
        }
        if (anew) {
            lay(id, revision, wanted);
        }
        known.forget();
        journal.write(
                who,
                "changed receiver",
                subject(id, wanted.name()),
                words(wanted.definition())
                        + (anew ? "; calls are laid out anew" : "")
                        + (otherCheck ? "; it has another secret" : ""));
    }

    private static Class<?> kind(CallCheck check) {
        return check.getClass();
    }

    /** What rows depend on. */
    private static ReceiverDefinition meaning(ReceiverDefinition one) {
        return new ReceiverDefinition(
                new CallCheck.NothingAsked(),
                one.records(),
                one.columns(),
                one.eventKey(),
                one.several(),
                one.zone(),
                0,
                1,
                1);
    }

    private void lay(long id, int revision, Wanted wanted) {
        if (wanted.definition().isCatching()) {
            return;
        }
        tables.make(id, revision, wanted.definition());
        Receivers.Receiver receiver = receivers.get(id);
        if (receiver.shownRevision() == 0) {
            tables.show(receiver, revision);
        }
    }

    void pause(long id, boolean paused, String who) {
        Receivers.Receiver receiver = receivers.get(id);
        receivers.pause(id, paused);
        journal.write(who, paused ? "paused receiver" : "resumed receiver", subject(id, receiver.name()), "");
    }

    /** @param secret that the tool has already; absent to make one */
    @Transactional
    void replaceSecret(long id, Optional<String> secret, String who) {
        ownSql.require();
        Receivers.Receiver receiver = receivers.get(id);
        CallCheck check = receiver.definition().check();
        if (check instanceof CallCheck.NothingAsked) {
            throw Problem.invalid("This receiver asks for no secret. Choose how calls are checked first.");
        }
        secrets.replace(id, secrets.given(check, secret), true);
        known.forget();
        journal.write(who, "replaced secret", subject(id, receiver.name()), "the former one is taken for 24 hours");
    }

    @Transactional
    void move(long id, String who) {
        ownSql.require();
        Receivers.Receiver receiver = receivers.get(id);
        secrets.move(id);
        known.forget();
        journal.write(who, "gave receiver another address", subject(id, receiver.name()), "");
    }

    static Journal.Subject subject(long id, String name) {
        return new Journal.Subject("receiver", id, name);
    }

    private static String words(ReceiverDefinition definition) {
        int columns = definition.columns().size();
        return columns == 0 ? "catches samples" : columns + (columns == 1 ? " column" : " columns");
    }

    private void check(Wanted wanted, long id) {
        ownSql.require();
        if (wanted.name().isBlank()) {
            throw Problem.invalid("Give the receiver a name.");
        }
        LandedSchema.checkName(wanted.table());
        List<String> faults = wanted.definition().faults();
        if (!faults.isEmpty()) {
            throw new Problem(
                    HttpStatus.UNPROCESSABLE_CONTENT,
                    faults.get(0),
                    faults.stream()
                            .map(fault -> new Problem.Detail("definition", fault))
                            .toList());
        }
        Optional<String> taken = receivers.takenBy(wanted.name(), id);
        if (taken.isPresent()) {
            throw Problem.conflict("Receiver " + taken.get() + " has this name already.");
        }
        Optional<String> owner = schema.takenBy(wanted.table(), "receiver", id);
        if (owner.isPresent()) {
            throw Problem.conflict(owner.get() + " has this table already.");
        }
    }
}
