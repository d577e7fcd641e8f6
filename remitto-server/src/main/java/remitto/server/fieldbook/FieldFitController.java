package remitto.server.fieldbook;

import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/field-fits")
class FieldFitController {
    private final FieldFits fits;

    FieldFitController(FieldFits fits) {
        this.fits = fits;
    }

    /**
     * Every object of every destination, the one that fits the columns of a dataset best first.
     *
     * @param dataset the dataset; 0 for one that was never saved
     * @param column names of its columns
     */
    @GetMapping
    List<FieldFits.FieldFit> fieldFits(
            @RequestParam(defaultValue = "0") long dataset, @RequestParam(defaultValue = "") List<String> column) {
        return fits.of(dataset, column);
    }
}
