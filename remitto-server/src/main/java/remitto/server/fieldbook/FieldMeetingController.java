package remitto.server.fieldbook;

import java.util.List;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import remitto.core.route.RouteSpec;
import remitto.server.route.RouteBinder.RouteEnds;

@RestController
@RequestMapping("/api/field-meetings")
class FieldMeetingController {
    private final FieldMeetings meetings;

    FieldMeetingController(FieldMeetings meetings) {
        this.meetings = meetings;
    }

    /**
     * Rules whose fields others may write too.
     *
     * @param routeId the route the rules belong to; 0 for one that was never saved
     */
    record MeetingQuestion(long routeId, RouteEnds ends, RouteSpec spec) {}

    /** Fields of these rules that other routes in service write by other rules, and whose value wins. */
    @PostMapping
    List<FieldMeetings.FieldMeeting> fieldMeetings(@RequestBody MeetingQuestion question) {
        return meetings.of(question.routeId(), question.ends(), question.spec());
    }
}
