package remitto.server.platform;

import java.util.function.Supplier;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** Transactions for questions over everybody: they may take more memory than others, and compiling them does not pay. */
@Component
public class LargeQueries {
    private final JdbcTemplate template;
    private final TransactionTemplate transactions;

    LargeQueries(JdbcTemplate template, TransactionTemplate transactions) {
        this.template = template;
        this.transactions = transactions;
    }

    /** @param work is done within the transaction; temporary tables it makes are gone afterwards if they say so */
    public <T> T ask(Supplier<T> work) {
        return transactions.execute(status -> {
            template.execute("set local work_mem = '256MB'");
            template.execute("set local jit = off");
            return work.get();
        });
    }
}
