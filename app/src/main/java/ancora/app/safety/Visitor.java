package ancora.app.safety;

import jakarta.servlet.http.HttpServletRequest;

/**
 * Who asks for a page.
 *
 * @param isHere whether by this machine's own door
 * @param watches whether with the pass phrase of who only watches
 */
public record Visitor(boolean isHere, boolean watches) {

  public static Visitor of(HttpServletRequest request) {
    return new Visitor(request.getUserPrincipal() == null, request.isUserInRole(Role.WATCH.name()));
  }
}
