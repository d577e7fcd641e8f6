package remitto.e2e;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.PlaywrightException;
import org.junit.jupiter.api.extension.AfterTestExecutionCallback;
import org.junit.jupiter.api.extension.ExtensionContext;

/** Prints what stood on the pages of a test that failed, and which requests of theirs were refused. */
public final class PageAtFailure implements AfterTestExecutionCallback {
    @Override
    public void afterTestExecution(ExtensionContext context) {
        context.getExecutionException().ifPresent(failure -> {
            System.out.println("Refused requests of the browser: " + Browser.refused());
            Browser.pages().forEach(PageAtFailure::print);
        });
    }

    private static void print(Page page) {
        try {
            System.out.println("Page at the failure: " + page.url() + "\n"
                    + page.locator("body").innerText());
        } catch (PlaywrightException e) {
            System.out.println("The page could not be read: " + e.getMessage());
        }
    }
}
