package remitto.server.source;

import java.util.List;
import remitto.connect.source.RowSource;

class MemorySourceTest extends RowSourceContract {
    @Override
    RowSource source(SourceTable... tables) {
        return new MemorySource(List.of(tables));
    }

    @Override
    String schema() {
        return "";
    }
}
