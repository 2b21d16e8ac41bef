package ancora.app.show;

import ancora.core.Refusal;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpStatus;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.ControllerAdvice;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.method.annotation.MethodArgumentTypeMismatchException;

/**
 * What cannot be shown is said in a sentence, on a page that leads back: asked before the
 * framework's own, which answers in JSON.
 */
@Order(Ordered.HIGHEST_PRECEDENCE)
@ControllerAdvice
class Refusals {

  @ExceptionHandler(Refusal.class)
  @ResponseStatus(HttpStatus.NOT_FOUND)
  String refused(Refusal refusal, Model model) {
    model.addAttribute("word", refusal.getMessage());
    return "error";
  }

  @ExceptionHandler(MethodArgumentTypeMismatchException.class)
  @ResponseStatus(HttpStatus.NOT_FOUND)
  String noNumber(Model model) {
    model.addAttribute("word", "There is no such show: choose one from the list.");
    return "error";
  }
}
