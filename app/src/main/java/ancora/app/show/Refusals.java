package ancora.app.show;

import ancora.core.Refusal;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.util.Map;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.dao.DataAccessException;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.transaction.TransactionException;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.ControllerAdvice;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.method.annotation.MethodArgumentTypeMismatchException;

/**
 * What cannot be shown is said in a sentence, on a page that leads back; to scripts as JSON: {why}.
 * Asked before the framework's own.
 */
@Order(Ordered.HIGHEST_PRECEDENCE)
@ControllerAdvice
class Refusals {

  @ExceptionHandler(Refusal.class)
  Object refused(
      Refusal refusal, HttpServletRequest asked, Model model, HttpServletResponse answer) {
    if (MediaType.APPLICATION_JSON_VALUE.equals(asked.getHeader(HttpHeaders.ACCEPT))) {
      return ResponseEntity.unprocessableContent().body(Map.of("why", refusal.getMessage()));
    }
    answer.setStatus(HttpStatus.NOT_FOUND.value());
    model.addAttribute("word", refusal.getMessage());
    return "error";
  }

  /**
   * The database is closed, or broken: what is open goes on, as it is in memory and in journals.
   */
  @ExceptionHandler({DataAccessException.class, TransactionException.class})
  Object closed(HttpServletRequest asked, Model model, HttpServletResponse answer) {
    String sentence = "The database cannot be read just now: look at the disk, then do that again.";
    if (MediaType.APPLICATION_JSON_VALUE.equals(asked.getHeader(HttpHeaders.ACCEPT))) {
      return ResponseEntity.status(HttpStatus.SERVICE_UNAVAILABLE).body(Map.of("why", sentence));
    }
    answer.setStatus(HttpStatus.SERVICE_UNAVAILABLE.value());
    model.addAttribute("word", sentence);
    return "error";
  }

  @ExceptionHandler(MethodArgumentTypeMismatchException.class)
  @ResponseStatus(HttpStatus.NOT_FOUND)
  String noNumber(Model model) {
    model.addAttribute("word", "There is no such show: choose one from the list.");
    return "error";
  }
}
