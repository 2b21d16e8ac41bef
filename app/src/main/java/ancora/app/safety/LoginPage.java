package ancora.app.safety;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import org.springframework.http.HttpStatus;
import org.springframework.security.authentication.LockedException;
import org.springframework.security.web.WebAttributes;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.ResponseStatus;

/** Where one says the pass phrase. */
@Controller
class LoginPage {

  private static final int TOO_MANY = 429;

  @GetMapping(Doors.LOGIN)
  String login() {
    return "login";
  }

  /** Whether one is known, for a page whose socket was refused: who is not gets another answer. */
  @GetMapping(Doors.KNOWN)
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void known() {
    // that it is answered says it
  }

  /** What was said lets nobody in. */
  @PostMapping(Doors.AGAIN)
  String again(HttpServletRequest request, HttpServletResponse response, Model model) {
    Object why = request.getAttribute(WebAttributes.AUTHENTICATION_EXCEPTION);
    response.setStatus(
        why instanceof LockedException ? TOO_MANY : HttpServletResponse.SC_UNAUTHORIZED);
    model.addAttribute("word", why instanceof Exception refused ? refused.getMessage() : null);
    return "login";
  }
}
