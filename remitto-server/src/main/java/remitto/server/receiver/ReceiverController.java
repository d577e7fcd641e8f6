package remitto.server.receiver;

import jakarta.servlet.http.HttpServletRequest;
import java.security.Principal;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.support.ServletUriComponentsBuilder;
import remitto.core.receiver.CallVerdict;
import remitto.core.receiver.ReceiverDefinition;
import remitto.server.journal.Journal;
import remitto.server.permission.CurrentUser;
import remitto.server.permission.Right;
import remitto.server.platform.RemittoProperties;
import remitto.server.source.OwnSql;
import remitto.server.source.Sources;

/** Receivers, which take calls of other tools. The calls themselves come in at addresses below {@code /in/}. */
@RestController
@RequestMapping("/api/receivers")
class ReceiverController {
    private static final int MOST = 200;

    private final Receivers receivers;
    private final ReceiverKeeping keeping;
    private final ReceiverSecrets secrets;
    private final CallLog log;
    private final CallSamples samples;
    private final CallReplay replay;
    private final CallsDue due;
    private final Sources sources;
    private final OwnSql ownSql;
    private final CurrentUser user;
    private final Journal journal;
    private final String publicAddress;

    ReceiverController(
            Receivers receivers,
            ReceiverKeeping keeping,
            ReceiverSecrets secrets,
            CallLog log,
            CallSamples samples,
            CallReplay replay,
            CallsDue due,
            Sources sources,
            OwnSql ownSql,
            CurrentUser user,
            Journal journal,
            RemittoProperties properties) {
        this.receivers = receivers;
        this.keeping = keeping;
        this.secrets = secrets;
        this.log = log;
        this.samples = samples;
        this.replay = replay;
        this.due = due;
        this.sources = sources;
        this.ownSql = ownSql;
        this.user = user;
        this.journal = journal;
        this.publicAddress = properties.publicAddress();
    }

    /**
     * A receiver to be added or changed.
     *
     * @param table of the schema {@code landed}; it stays
     * @param basedOn revision that was edited; 0 for a new one
     * @param secret that the tool has already; absent to have one made. Left out of account when a receiver is changed
     */
    record ReceiverDraft(
            String name,
            long sourceId,
            String table,
            ReceiverDefinition definition,
            int basedOn,
            Optional<String> secret) {}

    /**
     * Another secret for a receiver.
     *
     * @param secret that the tool has already; absent to have one made
     */
    record SecretRequest(Optional<String> secret) {}

    /**
     * From which call on calls are laid out again.
     *
     * @param from when the first of them came in
     */
    record ReplayRequest(Instant from) {}

    /**
     * What a replay came to.
     *
     * @param calls how many are laid out again
     */
    record Replayed(long calls) {}

    /**
     * What is pasted into the tool that calls.
     *
     * @param url that it calls, by POST
     * @param secret that it signs with or sends; blank where nothing is asked
     * @param formerUntil until when the secret before it is taken too; absent if it is not
     */
    record ReceiverAddress(String url, String secret, Optional<Instant> formerUntil) {}

    /** All receivers, by name. */
    @GetMapping
    List<Receivers.Receiver> receivers() {
        return receivers.all();
    }

    /** A receiver. */
    @GetMapping("/{id}")
    Receivers.Receiver receiver(@PathVariable long id) {
        return receivers.get(id);
    }

    /** Adds a receiver, which takes calls at once. */
    @PostMapping
    Receivers.Receiver addReceiver(@RequestBody ReceiverDraft draft, Principal who) {
        long id = keeping.add(wanted(draft), draft.secret(), who.getName());
        sources.test(draft.sourceId());
        return receivers.get(id);
    }

    /** Changes a receiver. Where that changes what rows are, the calls that are kept are laid out anew. */
    @PutMapping("/{id}")
    Receivers.Receiver changeReceiver(@PathVariable long id, @RequestBody ReceiverDraft draft, Principal who) {
        keeping.save(id, draft.basedOn(), wanted(draft), who.getName());
        sources.test(draft.sourceId());
        due.wake(id);
        return receivers.get(id);
    }

    private static ReceiverKeeping.Wanted wanted(ReceiverDraft draft) {
        return new ReceiverKeeping.Wanted(draft.name(), draft.sourceId(), draft.table(), draft.definition());
    }

    /** Lays no calls out for now. They are taken and kept as before. */
    @PostMapping("/{id}/pause")
    Receivers.Receiver pauseReceiver(@PathVariable long id, Principal who) {
        keeping.pause(id, true, who.getName());
        return receivers.get(id);
    }

    /** Lays calls out again, those first that came in meanwhile. */
    @PostMapping("/{id}/resume")
    Receivers.Receiver resumeReceiver(@PathVariable long id, Principal who) {
        keeping.pause(id, false, who.getName());
        due.wake(id);
        return receivers.get(id);
    }

    /** Shows the address and the secret, for the tool that calls. Written in the journal. */
    @PostMapping("/{id}/address/show")
    ReceiverAddress showReceiverAddress(@PathVariable long id, Principal who, HttpServletRequest request) {
        ownSql.require();
        Receivers.Receiver receiver = receivers.get(id);
        journal.write(who.getName(), "looked at secret", ReceiverKeeping.subject(id, receiver.name()), "");
        return address(id, request);
    }

    /** Gives the receiver another address. The one before takes no more calls. */
    @PostMapping("/{id}/address")
    ReceiverAddress moveReceiver(@PathVariable long id, Principal who, HttpServletRequest request) {
        keeping.move(id, who.getName());
        return address(id, request);
    }

    /** Gives the receiver another secret. The one before is taken for 24 hours more. */
    @PostMapping("/{id}/secret")
    ReceiverAddress replaceReceiverSecret(
            @PathVariable long id, @RequestBody SecretRequest given, Principal who, HttpServletRequest request) {
        keeping.replaceSecret(id, given.secret(), who.getName());
        return address(id, request);
    }

    private ReceiverAddress address(long id, HttpServletRequest request) {
        ReceiverSecrets.Known known = secrets.of(id);
        String base = publicAddress.isBlank()
                ? ServletUriComponentsBuilder.fromContextPath(request).toUriString()
                : publicAddress.replaceAll("/+$", "");
        return new ReceiverAddress(
                base + CallConfiguration.PATH + known.code(),
                known.secret(),
                known.former().isEmpty() ? Optional.empty() : Optional.of(known.formerUntil()));
    }

    /** What the latest calls hold, and what a definition makes of them. Keeps nothing. */
    @PostMapping("/{id}/sample")
    CallSamples.CallSample sampleCalls(
            @PathVariable long id, @RequestBody ReceiverDefinition definition, Principal who) {
        ownSql.require();
        Receivers.Receiver receiver = receivers.get(id);
        journal.write(who.getName(), "looked at calls", ReceiverKeeping.subject(id, receiver.name()), "as samples");
        return samples.sample(id, definition);
    }

    /** Lays calls out again from a moment on, such as after rows were lost. The same event stays one. */
    @PostMapping("/{id}/replay")
    Replayed replayCalls(@PathVariable long id, @RequestBody ReplayRequest request, Principal who) {
        long calls = replay.replay(id, request.from(), who.getName());
        due.wake(id);
        return new Replayed(calls);
    }

    /**
     * Calls of a receiver, the latest first; at most 200.
     *
     * @param verdict of the calls that are wanted; absent for all
     * @param before id of the call that the list goes on from; absent for the latest
     */
    @GetMapping("/{id}/calls")
    List<CallLog.ReceivedCall> receivedCalls(
            @PathVariable long id,
            @RequestParam Optional<CallVerdict> verdict,
            @RequestParam(defaultValue = "0") long before) {
        receivers.get(id);
        return log.calls(id, verdict, before, MOST);
    }

    /**
     * A call with its headers and its body.
     *
     * @param call its id
     */
    @GetMapping("/{id}/calls/{call}")
    CallLog.WholeCall receivedCall(@PathVariable long id, @PathVariable long call) {
        user.require(Right.SEE_PERSONAL_VALUES);
        receivers.get(id);
        return log.whole(id, call);
    }
}
