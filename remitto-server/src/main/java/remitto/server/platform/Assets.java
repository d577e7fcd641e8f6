package remitto.server.platform;

import java.time.Duration;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.CacheControl;
import org.springframework.web.servlet.config.annotation.ResourceHandlerRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;

/** Scripts, styles and fonts. Their names say what is in them, so that a browser keeps them for good and asks once. */
@Configuration
class Assets implements WebMvcConfigurer {
    private static final Duration FOR_GOOD = Duration.ofDays(365);

    @Override
    public void addResourceHandlers(ResourceHandlerRegistry registry) {
        registry.addResourceHandler("/assets/**")
                .addResourceLocations("classpath:/static/assets/")
                .setCacheControl(CacheControl.maxAge(FOR_GOOD).cachePublic().immutable());
    }
}
