package ancora.app.safety;

import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.security.authentication.AuthenticationProvider;
import org.springframework.security.authentication.BadCredentialsException;
import org.springframework.security.authentication.LockedException;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.userdetails.User;
import org.springframework.security.core.userdetails.UserDetails;
import org.springframework.security.web.authentication.WebAuthenticationDetails;

/** Lets in who says a pass phrase, whatever his name is. */
final class PhraseCheck implements AuthenticationProvider {

  private static final Logger LOG = LoggerFactory.getLogger(PhraseCheck.class);

  private final PassPhrases phrases;
  private final Tries tries = new Tries(System::nanoTime);

  PhraseCheck(PassPhrases phrases) {
    this.phrases = phrases;
  }

  @Override
  public Authentication authenticate(Authentication said) {
    String address = ((WebAuthenticationDetails) said.getDetails()).getRemoteAddress();
    long left = tries.secondsLeft(address);
    if (left > 0) {
      throw new LockedException(
          "There were too many wrong pass phrases: try again in %s seconds.".formatted(left));
    }
    return phrases
        .role(String.valueOf(said.getCredentials()))
        .map(role -> letIn(said, role, address))
        .orElseThrow(() -> wrong(address));
  }

  private Authentication letIn(Authentication said, Role role, String address) {
    tries.right(address);
    LOG.info("somebody at {} came in to {}", address, role.user());
    UserDetails user = user(role, phrases);
    UsernamePasswordAuthenticationToken in =
        UsernamePasswordAuthenticationToken.authenticated(user, null, user.getAuthorities());
    in.setDetails(said.getDetails());
    return in;
  }

  private RuntimeException wrong(String address) {
    boolean costs = tries.wrong(address);
    if (costs) {
      LOG.warn("too many wrong pass phrases, the last from {}: a minute's wait", address);
    } else {
      LOG.warn("a wrong pass phrase from {}", address);
    }
    return new BadCredentialsException(
        costs
            ? "There were too many wrong pass phrases: try again in a minute."
            : "That is not one of the two pass phrases: look where Ancora was started.");
  }

  /** Who says a phrase is known by it: with another phrase nobody is known any more. */
  static UserDetails user(Role role, PassPhrases phrases) {
    String phrase = role == Role.PERFORM ? phrases.perform() : phrases.watch();
    return User.withUsername(role.user()).password(phrase).authorities(role).build();
  }

  @Override
  public boolean supports(Class<?> kind) {
    return UsernamePasswordAuthenticationToken.class.isAssignableFrom(kind);
  }
}
