package remitto.server.audience;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import remitto.core.dataset.ColumnType;
import remitto.core.dataset.Columns;
import remitto.core.destination.FieldKind;
import remitto.core.fieldrule.DatasetLookUp;
import remitto.core.file.FileColumn;
import remitto.core.file.FileContent;
import remitto.core.file.FileForm;
import remitto.core.file.FileLayout;
import remitto.core.file.FileName;
import remitto.core.route.Basis;
import remitto.core.route.FirstDraft;
import remitto.server.dataset.Datasets;
import remitto.server.destination.FileLaying;
import remitto.server.event.EventDatasets;
import remitto.server.platform.Problem;
import remitto.server.route.RouteBinder;
import remitto.server.route.RouteLaying;

/** Creates a route for an audience from the chosen columns, under the names of its receiver. */
@Component
class AudienceSending {
    private static final String PERSON = EventDatasets.PERSON;

    private final AudienceRoutes audiences;
    private final EventDatasets events;
    private final Datasets datasets;
    private final FileLaying files;
    private final RouteLaying routes;
    private final TransactionTemplate transactions;

    AudienceSending(
            AudienceRoutes audiences,
            EventDatasets events,
            Datasets datasets,
            FileLaying files,
            RouteLaying routes,
            TransactionTemplate transactions) {
        this.transactions = transactions;
        this.audiences = audiences;
        this.events = events;
        this.datasets = datasets;
        this.files = files;
        this.routes = routes;
    }

    /**
     * How an audience is to be sent: destination, columns, rows of events and legal basis.
     *
     * @param object that receives it; absent for a new file
     * @param country ISO 3166 code for phone numbers spelled without one
     * @param zone IANA time zone of its days
     */
    record AudienceSendRequest(
            String name,
            long destinationId,
            Optional<String> object,
            Optional<NewFile> file,
            Basis basis,
            List<FirstDraft.SentColumn> columns,
            List<RowsRequest> rows,
            String country,
            String zone) {}

    /**
     * The layout of a file that is to be created for an audience.
     *
     * @param key the column of the file by which a record is told apart
     */
    record NewFile(String name, boolean jsonLines, boolean changesOnly, String key) {}

    /**
     * Events of each person that are sent as well: they narrow what is received, never whom.
     *
     * @param field that receives them
     */
    record RowsRequest(
            long events,
            String field,
            List<DatasetLookUp.RowPart> parts,
            List<DatasetLookUp.Condition> only,
            DatasetLookUp.Pick pick) {}

    /** @return the route */
    long lay(Audiences.Audience audience, AudienceSendRequest request, String who) {
        if (request.columns().isEmpty()) {
            throw Problem.invalid("Choose at least one column to send.");
        }
        long dataset = audiences.dataset(audience, who).id();
        // Datasets are read by a login of its own, which sees nothing of an open transaction.
        List<FirstDraft.CarriedRows> rows = new ArrayList<>();
        request.rows().forEach(one -> rows.add(new FirstDraft.CarriedRows(way(one, who), PERSON, one.field())));
        return Optional.ofNullable(transactions.execute(status -> lay(request, rows, dataset, who)))
                .orElseThrow();
    }

    private long lay(AudienceSendRequest request, List<FirstDraft.CarriedRows> rows, long dataset, String who) {
        String object = request.object()
                .orElseGet(() -> file(
                        request,
                        request.file().orElseThrow(() -> Problem.invalid("Choose the destination object or file.")),
                        dataset,
                        who));
        return routes.lay(
                new RouteLaying.NewRouteDefinition(
                        request.name(),
                        new RouteBinder.RouteEnds(dataset, request.destinationId(), object),
                        request.basis(),
                        request.country(),
                        request.zone()),
                draft -> draft.of(request.columns(), rows),
                who);
    }

    private DatasetLookUp way(RowsRequest request, String who) {
        boolean one = request.parts().size() == 1;
        if (request.parts().isEmpty()) {
            throw Problem.invalid("Choose the columns of the rows to send as " + request.field() + ".");
        }
        return new DatasetLookUp(
                events.dataset(request.events(), who),
                PERSON,
                List.of(),
                one ? request.parts().get(0).column() : "",
                one ? List.of() : request.parts(),
                request.only(),
                Optional.of(request.pick()));
    }

    private String file(AudienceSendRequest request, NewFile file, long dataset, String who) {
        Columns columns = new Columns(datasets.get(dataset).definition().columns());
        List<FileColumn> named = new ArrayList<>();
        request.columns()
                .forEach(one -> named.add(FileColumn.of(
                        one.field(),
                        columns.find(one.column())
                                .map(column -> kind(column.type()))
                                .orElseThrow(() -> Problem.invalid("The audience has no " + one.column() + ".")))));
        request.rows()
                .forEach(one -> named.add(
                        FileColumn.of(one.field(), one.parts().size() == 1 ? FieldKind.LIST : FieldKind.ROWS)));
        try {
            FileLayout layout = new FileLayout(
                    file.name(),
                    true,
                    file.changesOnly()
                            ? new FileContent.Changes("change", "added", "changed", "removed")
                            : new FileContent.Everybody(),
                    "",
                    new FileName(file.name() + "-{date}-{run}"),
                    request.zone(),
                    file.jsonLines() ? new FileForm.JsonLines() : FileForm.Csv.plain(),
                    false,
                    file.key(),
                    named);
            files.layOutNew(request.destinationId(), layout, who);
        } catch (IllegalArgumentException e) {
            throw Problem.invalid(String.valueOf(e.getMessage()));
        }
        return file.name();
    }

    private static FieldKind kind(ColumnType type) {
        return switch (type) {
            case TEXT -> FieldKind.TEXT;
            case INTEGER -> FieldKind.INTEGER;
            case DECIMAL -> FieldKind.DECIMAL;
            case BOOLEAN -> FieldKind.BOOLEAN;
            case DATE -> FieldKind.DATE;
            case TIMESTAMP -> FieldKind.TIMESTAMP;
        };
    }
}
