package ancora.app.safety;

import ancora.app.options.Options;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.regex.Pattern;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpMethod;
import org.springframework.http.MediaType;
import org.springframework.security.access.AccessDeniedException;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.config.http.SessionCreationPolicy;
import org.springframework.security.core.AuthenticationException;
import org.springframework.security.provisioning.InMemoryUserDetailsManager;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.authentication.LoginUrlAuthenticationEntryPoint;
import org.springframework.security.web.authentication.rememberme.TokenBasedRememberMeServices;
import org.springframework.security.web.csrf.CookieCsrfTokenRepository;
import org.springframework.security.web.csrf.CsrfException;
import org.springframework.security.web.header.writers.ReferrerPolicyHeaderWriter.ReferrerPolicy;
import org.springframework.security.web.savedrequest.CookieRequestCache;

/**
 * Two doors: this machine's own, by which one comes in as one is; and that of the room, if it is
 * open, by which one comes in with a pass phrase to perform or to watch. What a page that watches
 * may not do is refused at both.
 */
@Configuration
class Doors {

  static final String LOGIN = "/login";
  static final String AGAIN = "/login/again";
  static final String KNOWN = "/known";

  private static final String POLICY =
      String.join(
          "; ",
          "default-src 'self'",
          "script-src 'self' 'wasm-unsafe-eval'",
          "style-src 'self'",
          "img-src 'self' data:",
          "object-src 'none'",
          "base-uri 'none'",
          "form-action 'self'",
          "frame-ancestors 'none'");

  private static final String WATCHES = "view=watch";

  /** What is there for whoever asks: what pages are made of, and another try. */
  private static final String[] OPEN = {"/built/**", "/img/**", AGAIN};

  private static final Pattern WATCHED = Pattern.compile("/(shows|socket)/\\d+");

  private static final String WATCH_ONLY =
      "With this pass phrase you watch: say the other one to play.";
  private static final String OLD =
      "That page does not know this house: reload it, then try again.";
  private static final String LOG_IN = "Say the pass phrase first: reload the page.";

  @Bean
  @Order(1)
  SecurityFilterChain roomsDoor(HttpSecurity http, Room room, Options options) throws Exception {
    common(http).securityMatcher(room::isFrom);
    if (!room.isOpen()) {
      return http.build();
    }
    PassPhrases phrases = room.phrases();
    TokenBasedRememberMeServices known =
        new TokenBasedRememberMeServices(
            phrases.perform() + "/" + phrases.watch(), visitors(phrases));
    known.setAlwaysRemember(true);
    known.setCookieName("ancora-known");
    known.setTokenValiditySeconds((int) options.stay().toSeconds());
    return http.authenticationProvider(new PhraseCheck(phrases))
        .authorizeHttpRequests(
            requests ->
                requests
                    .requestMatchers(OPEN)
                    .permitAll()
                    .requestMatchers(Doors::isAskedByOneThatWatches)
                    .denyAll()
                    .requestMatchers(Doors::isWatched)
                    .authenticated()
                    .anyRequest()
                    .hasRole(Role.PERFORM.name()))
        .formLogin(
            login ->
                login
                    .loginPage(LOGIN)
                    .passwordParameter("phrase")
                    .failureForwardUrl(AGAIN)
                    .permitAll())
        .rememberMe(remember -> remember.rememberMeServices(known).key(known.getKey()))
        .requestCache(cache -> cache.requestCache(new CookieRequestCache()))
        .exceptionHandling(
            handling ->
                handling.authenticationEntryPoint(Doors::asked).accessDeniedHandler(Doors::refused))
        .build();
  }

  @Bean
  @Order(2)
  SecurityFilterChain ownDoor(HttpSecurity http) throws Exception {
    return common(http)
        .sessionManagement(s -> s.sessionCreationPolicy(SessionCreationPolicy.STATELESS))
        .authorizeHttpRequests(
            requests ->
                requests
                    .requestMatchers(Doors::isAskedByOneThatWatches)
                    .denyAll()
                    .anyRequest()
                    .permitAll())
        .exceptionHandling(
            handling ->
                handling
                    .authenticationEntryPoint(
                        (request, response, none) ->
                            say(response, HttpServletResponse.SC_FORBIDDEN, WATCH_ONLY))
                    .accessDeniedHandler(Doors::refused))
        .build();
  }

  /** Who has not said a phrase is asked for it, if it is a person. */
  private static void asked(
      HttpServletRequest request, HttpServletResponse response, AuthenticationException none)
      throws IOException, ServletException {
    if (isPage(request)) {
      new LoginUrlAuthenticationEntryPoint(LOGIN).commence(request, response, none);
    } else {
      say(response, HttpServletResponse.SC_UNAUTHORIZED, LOG_IN);
    }
  }

  /** Who watches is shown what he may see of a show, and told of what he may not do. */
  private static void refused(
      HttpServletRequest request, HttpServletResponse response, AccessDeniedException denied)
      throws IOException {
    String path = request.getServletPath();
    if (denied instanceof CsrfException) {
      say(response, HttpServletResponse.SC_FORBIDDEN, OLD);
    } else if (isPage(request) && WATCHED.matcher(path).matches()) {
      response.sendRedirect(path + "?" + WATCHES);
    } else {
      say(response, HttpServletResponse.SC_FORBIDDEN, WATCH_ONLY);
    }
  }

  private static InMemoryUserDetailsManager visitors(PassPhrases phrases) {
    return new InMemoryUserDetailsManager(
        PhraseCheck.user(Role.PERFORM, phrases), PhraseCheck.user(Role.WATCH, phrases));
  }

  /** A token is in a cookie, so that a page that was open for long, or over a restart, is good. */
  private static HttpSecurity common(HttpSecurity http) throws Exception {
    return http.csrf(csrf -> csrf.csrfTokenRepository(new CookieCsrfTokenRepository()))
        .headers(
            headers ->
                headers
                    // a certificate that nobody has signed could not be trusted any more
                    .httpStrictTransportSecurity(strict -> strict.disable())
                    .contentSecurityPolicy(policy -> policy.policyDirectives(POLICY))
                    .referrerPolicy(policy -> policy.policy(ReferrerPolicy.SAME_ORIGIN)));
  }

  /** The list of shows, and what watches one. */
  private static boolean isWatched(HttpServletRequest request) {
    String path = request.getServletPath();
    boolean watches = WATCHES.equals(request.getQueryString());
    return HttpMethod.GET.matches(request.getMethod())
        && (path.equals("/") || path.equals(KNOWN) || watches && WATCHED.matcher(path).matches());
  }

  /** Whether a page that only watches asks for more than what it shows. */
  private static boolean isAskedByOneThatWatches(HttpServletRequest request) {
    String from = request.getHeader("Referer");
    return from != null
        && from.endsWith("?" + WATCHES)
        && !HttpMethod.GET.matches(request.getMethod());
  }

  private static boolean isPage(HttpServletRequest request) {
    String accepts = request.getHeader("Accept");
    return HttpMethod.GET.matches(request.getMethod())
        && accepts != null
        && accepts.contains(MediaType.TEXT_HTML_VALUE);
  }

  private static void say(HttpServletResponse response, int status, String sentence)
      throws IOException {
    response.setStatus(status);
    response.setContentType("text/plain;charset=UTF-8");
    response.getWriter().write(sentence);
  }
}
