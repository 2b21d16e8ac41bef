package ancora.app.page;

import java.time.Duration;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.CacheControl;
import org.springframework.web.servlet.config.annotation.ResourceHandlerRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;
import org.springframework.web.servlet.resource.EncodedResourceResolver;
import org.springframework.web.servlet.resource.ResourceUrlEncodingFilter;
import org.springframework.web.servlet.resource.VersionResourceResolver;

/**
 * What the build laid for the browser: each file under an address with the digest of its content,
 * so that a browser keeps it for good and yet never has an old one; sent as it was packed by the
 * build.
 */
@Configuration(proxyBeanMethods = false)
class BuiltFiles implements WebMvcConfigurer {

  private static final Duration A_YEAR = Duration.ofDays(365);

  @Override
  public void addResourceHandlers(ResourceHandlerRegistry registry) {
    registry
        .addResourceHandler("/built/**")
        .addResourceLocations("classpath:/static/built/")
        .setCacheControl(CacheControl.maxAge(A_YEAR).cachePublic().immutable())
        .resourceChain(true)
        .addResolver(new EncodedResourceResolver())
        .addResolver(new VersionResourceResolver().addContentVersionStrategy("/**"));
  }

  /** Gives the addresses in the pages their digests. */
  @Bean
  ResourceUrlEncodingFilter addressesWithDigests() {
    return new ResourceUrlEncodingFilter();
  }
}
