package ancora.app.page;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Set;
import org.commonmark.Extension;
import org.commonmark.ext.gfm.tables.TablesExtension;
import org.commonmark.parser.Parser;
import org.commonmark.renderer.html.HtmlRenderer;
import org.springframework.core.io.ClassPathResource;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.servlet.config.annotation.ResourceHandlerRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;

/** The handbook for musicians, which is kept as {@code docs/handbook.md}, as a page. */
@Controller
class HandbookPage implements WebMvcConfigurer {

  private static final Set<Extension> TABLES = Set.of(TablesExtension.create());

  private final String html;

  HandbookPage() throws IOException {
    String text =
        new ClassPathResource("handbook/handbook.md").getContentAsString(StandardCharsets.UTF_8);
    // the page says itself what it is
    String body = text.replaceFirst("^# .*\\R", "").replace("](screenshots/", "](/handbook/");
    html =
        HtmlRenderer.builder()
            .extensions(List.copyOf(TABLES))
            .build()
            .render(Parser.builder().extensions(TABLES).build().parse(body));
  }

  @Override
  public void addResourceHandlers(ResourceHandlerRegistry registry) {
    registry
        .addResourceHandler("/handbook/*.png")
        .addResourceLocations("classpath:/handbook/screenshots/");
  }

  @GetMapping("/handbook")
  String handbook(Model model) {
    model.addAttribute("html", html);
    return "handbook";
  }
}
