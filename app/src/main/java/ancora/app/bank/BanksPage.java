package ancora.app.bank;

import ancora.app.bank.Banks.Bank;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import org.springframework.core.io.FileSystemResource;
import org.springframework.core.io.Resource;
import org.springframework.http.CacheControl;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseBody;

/** The addresses of sound banks of one's own. */
@Controller
class BanksPage {

  private static final Duration FOR_GOOD = Duration.ofDays(365);

  private final Banks banks;

  BanksPage(Banks banks) {
    this.banks = banks;
  }

  @GetMapping("/banks.json")
  @ResponseBody
  List<Bank> all() throws IOException {
    return banks.all();
  }

  /** The file as it came; what has its digest for a name is never another one. */
  @GetMapping("/banks/{bank}")
  ResponseEntity<Resource> one(@PathVariable String bank) {
    Optional<Path> file = banks.find(bank);
    if (file.isEmpty()) {
      return ResponseEntity.notFound().build();
    }
    return ResponseEntity.ok()
        .cacheControl(CacheControl.maxAge(FOR_GOOD).cachePrivate().immutable())
        .contentType(MediaType.APPLICATION_OCTET_STREAM)
        .body(new FileSystemResource(file.get()));
  }

  /**
   * Brings one in, as it is, without a form around it.
   *
   * @param file what it is called
   */
  @PostMapping(path = "/banks", consumes = MediaType.APPLICATION_OCTET_STREAM_VALUE)
  @ResponseBody
  Bank bring(@RequestParam String file, InputStream in) throws IOException {
    return banks.keep(file, in);
  }

  @DeleteMapping("/banks/{bank}")
  ResponseEntity<Void> delete(@PathVariable String bank) throws IOException {
    banks.delete(bank);
    return ResponseEntity.noContent().build();
  }
}
