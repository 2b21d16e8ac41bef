package ancora.app.page;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.springframework.core.io.ClassPathResource;
import org.springframework.ui.ExtendedModelMap;

/** The handbook names what is on the pages, and shows pictures that there are. */
class HandbookTest {

  private static final Path TEMPLATES = Path.of("src/main/resources/templates");

  private final String html;

  HandbookTest() throws IOException {
    ExtendedModelMap model = new ExtendedModelMap();
    new HandbookPage().handbook(model);
    html = (String) model.get("html");
  }

  private List<String> all(String pattern) {
    return Pattern.compile(pattern).matcher(html).results().map(r -> r.group(1)).toList();
  }

  @Test
  void whatIsPrintedBoldStandsOnAPage() throws IOException {
    String pages;
    try (Stream<Path> files = Files.walk(TEMPLATES)) {
      pages =
          files
              .filter(file -> file.toString().endsWith(".html"))
              .map(HandbookTest::read)
              .collect(Collectors.joining());
    }
    assertThat(all("<strong>([^<]+)</strong>")).hasSizeGreaterThan(10).allMatch(pages::contains);
  }

  @Test
  void itsPicturesAreThere() {
    assertThat(all("<img src=\"/handbook/([^\"]+)\""))
        .hasSizeGreaterThan(10)
        .allMatch(name -> new ClassPathResource("handbook/screenshots/" + name).exists());
    assertThat(html).contains("<table>");
  }

  private static String read(Path file) {
    try {
      return Files.readString(file);
    } catch (IOException e) {
      throw new java.io.UncheckedIOException(e);
    }
  }
}
