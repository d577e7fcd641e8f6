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

/** Lays a route for an audience by what somebody chose to travel along, under the names its receiver wants. */
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
     * @param object that receives it; absent for a file that is laid out now
     * @param country ISO 3166 code for phone numbers spelled without one
     * @param zone IANA time zone of its days
     */
    record AudienceSendWish(
            String name,
            long destinationId,
            Optional<String> object,
            Optional<NewFile> file,
            Basis basis,
            List<FirstDraft.Carried> columns,
            List<RowsWish> rows,
            String country,
            String zone) {}

    /** @param key the column of the file by which a record is told apart */
    record NewFile(String name, boolean jsonLines, boolean changesOnly, String key) {}

    /**
     * Events of each person that travel along: they narrow what is received, never whom.
     *
     * @param field that receives them
     */
    record RowsWish(
            long events,
            String field,
            List<DatasetLookUp.RowPart> parts,
            List<DatasetLookUp.Condition> only,
            DatasetLookUp.Pick pick) {}

    /** @return the route */
    long lay(Audiences.Audience audience, AudienceSendWish wish, String who) {
        if (wish.columns().isEmpty()) {
            throw Problem.invalid("Choose at least one attribute that travels along.");
        }
        long dataset = audiences.dataset(audience, who).id();
        // Datasets are read by a login of its own, which sees nothing of an open transaction.
        List<FirstDraft.CarriedRows> rows = new ArrayList<>();
        wish.rows().forEach(one -> rows.add(new FirstDraft.CarriedRows(way(one, who), PERSON, one.field())));
        return Optional.ofNullable(transactions.execute(status -> lay(wish, rows, dataset, who)))
                .orElseThrow();
    }

    private long lay(AudienceSendWish wish, List<FirstDraft.CarriedRows> rows, long dataset, String who) {
        String object = wish.object()
                .orElseGet(() -> file(
                        wish,
                        wish.file().orElseThrow(() -> Problem.invalid("Say what receives the audience.")),
                        dataset,
                        who));
        return routes.lay(
                new RouteLaying.Laying(
                        wish.name(),
                        new RouteBinder.Ends(dataset, wish.destinationId(), object),
                        wish.basis(),
                        wish.country(),
                        wish.zone()),
                draft -> draft.of(wish.columns(), rows),
                who);
    }

    private DatasetLookUp way(RowsWish wish, String who) {
        boolean one = wish.parts().size() == 1;
        if (wish.parts().isEmpty()) {
            throw Problem.invalid("Choose what of the rows travels along as " + wish.field() + ".");
        }
        return new DatasetLookUp(
                events.dataset(wish.events(), who),
                PERSON,
                List.of(),
                one ? wish.parts().get(0).column() : "",
                one ? List.of() : wish.parts(),
                wish.only(),
                Optional.of(wish.pick()));
    }

    private String file(AudienceSendWish wish, NewFile file, long dataset, String who) {
        Columns columns = new Columns(datasets.get(dataset).definition().columns());
        List<FileColumn> named = new ArrayList<>();
        wish.columns()
                .forEach(one -> named.add(FileColumn.of(
                        one.field(),
                        columns.find(one.column())
                                .map(column -> kind(column.type()))
                                .orElseThrow(() -> Problem.invalid("The audience has no " + one.column() + ".")))));
        wish.rows()
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
                    wish.zone(),
                    file.jsonLines() ? new FileForm.JsonLines() : FileForm.Csv.plain(),
                    false,
                    file.key(),
                    named);
            files.layOutNew(wish.destinationId(), layout, who);
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
