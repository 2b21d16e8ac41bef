package ancora.app.safety;

import org.springframework.security.web.csrf.CsrfToken;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;

/** The token that a form has in it, for a page that has been open longer than its session. */
@RestController
class TokenPage {

  /** What a request must carry, under which header. */
  record Token(String header, String token) {}

  @GetMapping("/token")
  Token token(CsrfToken token) {
    return new Token(token.getHeaderName(), token.getToken());
  }
}
