package ancora.app.safety;

import java.util.Locale;
import org.springframework.security.core.GrantedAuthority;

/** What somebody in the room may do. */
enum Role implements GrantedAuthority {
  /** All that can be done on this machine. */
  PERFORM,
  /** See what sounds. */
  WATCH;

  @Override
  public String getAuthority() {
    return "ROLE_" + name();
  }

  /** The user by whom it is known to who stays for long. */
  String user() {
    return name().toLowerCase(Locale.ROOT);
  }
}
