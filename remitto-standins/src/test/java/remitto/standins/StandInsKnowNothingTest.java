package remitto.standins;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import org.junit.jupiter.api.Test;

/** Stand-ins are other people's tools: they know nothing of who calls them, and none of another. */
class StandInsKnowNothingTest {
    private static final JavaClasses STAND_INS = new ClassFileImporter()
            .withImportOption(new ImportOption.DoNotIncludeTests())
            .importPackages("remitto.standins");

    @Test
    void theyKnowNothingOfTheProduct() {
        noClasses()
                .that()
                .resideInAPackage("remitto.standins..")
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage("remitto.core..", "remitto.connect..", "remitto.server..", "remitto.demo..")
                .check(STAND_INS);
    }

    @Test
    void noPackagesGoInACircle() {
        slices().matching("remitto.standins.(**)").should().beFreeOfCycles().check(STAND_INS);
    }
}
