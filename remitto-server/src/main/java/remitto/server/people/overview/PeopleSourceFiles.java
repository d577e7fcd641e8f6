package remitto.server.people.overview;

import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;
import remitto.server.definition.DefinitionKind;
import remitto.server.people.EntityType;
import remitto.server.people.source.PeopleSources;
import remitto.server.platform.Problem;

/** What columns of datasets say of people, as files: one for each dataset. */
@Component
class PeopleSourceFiles implements DefinitionKind<PeopleSourceFiles.PeopleSourceFile> {
    private final PeopleSources sources;
    private final PeopleSourceKeeping keeping;

    PeopleSourceFiles(PeopleSources sources, PeopleSourceKeeping keeping) {
        this.sources = sources;
        this.keeping = keeping;
    }

    /**
     * A dataset whose columns are mapped to people or companies.
     *
     * @param columns mapped to attributes
     * @param country ISO 3166-1 alpha-2 that phone numbers are of unless {@code countryColumn} says another; that may be blank
     */
    record PeopleSourceFile(
            long dataset,
            EntityType entityType,
            List<PeopleSources.TiedColumn> columns,
            String country,
            String countryColumn,
            Optional<CompanyOfRecord> belongsTo) {
        PeopleSourceFile {
            columns = List.copyOf(columns);
        }
    }

    /**
     * The company that a record's person belongs to.
     *
     * @param column that holds the company's key in that dataset
     */
    record CompanyOfRecord(long companyDataset, String column) {}

    @Override
    public Form<PeopleSourceFile> form() {
        return new Form<>("people-source", "people-sources", PeopleSourceFile.class, 50, false);
    }

    @Override
    public List<Kept<PeopleSourceFile>> all() {
        return Arrays.stream(EntityType.values())
                .flatMap(type -> sources.all(type).stream())
                .map(one -> new Kept<>(
                        Long.toString(one.datasetId()),
                        one.dataset(),
                        new PeopleSourceFile(
                                one.datasetId(),
                                one.entityType(),
                                one.columns(),
                                one.country(),
                                one.countryColumn(),
                                one.belongsTo().map(to -> new CompanyOfRecord(to.datasetId(), to.column()))),
                        Optional.<PeopleSourceFile>empty()))
                .toList();
    }

    @Override
    public String add(Change<PeopleSourceFile> change) {
        PeopleSourceFile file = change.content();
        keeping.tie(
                file.dataset(),
                new PeopleSources.ColumnMapping(
                        file.entityType(),
                        file.columns(),
                        file.country(),
                        file.countryColumn(),
                        file.belongsTo().map(to -> new PeopleSources.BelongsTo(to.companyDataset(), to.column()))),
                change.who());
        return Long.toString(file.dataset());
    }

    @Override
    public void change(String id, Change<PeopleSourceFile> change) {
        if (change.content().dataset() != Long.parseLong(id)) {
            throw Problem.conflict("A mapping stays that of its dataset; map the other dataset in a file of its own.");
        }
        add(change);
    }

    @Override
    public void remove(String id, String who) {
        keeping.untie(Long.parseLong(id), who);
    }
}
