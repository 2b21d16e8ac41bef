package ancora.app.safety;

import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.security.config.Customizer;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.core.userdetails.User;
import org.springframework.security.core.userdetails.UserDetailsService;
import org.springframework.security.crypto.factory.PasswordEncoderFactories;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.security.provisioning.InMemoryUserDetailsManager;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.header.writers.ReferrerPolicyHeaderWriter.ReferrerPolicy;

/** Content-Security-Policy, CSRF tokens in forms, and the pass phrase where one is set. */
@Configuration
class Doors {

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

  @Bean
  SecurityFilterChain chain(HttpSecurity http, Safety safety) throws Exception {
    http.headers(
        headers ->
            headers
                .contentSecurityPolicy(policy -> policy.policyDirectives(POLICY))
                .referrerPolicy(policy -> policy.policy(ReferrerPolicy.SAME_ORIGIN)));
    if (safety.asksForPhrase()) {
      http.authorizeHttpRequests(
              requests ->
                  requests
                      .requestMatchers("/actuator/health")
                      .permitAll()
                      .anyRequest()
                      .authenticated())
          .formLogin(Customizer.withDefaults());
    } else {
      http.authorizeHttpRequests(requests -> requests.anyRequest().permitAll());
    }
    return http.build();
  }

  @Bean
  UserDetailsService performers(Safety safety) {
    PasswordEncoder encoder = PasswordEncoderFactories.createDelegatingPasswordEncoder();
    String phrase =
        safety.asksForPhrase() ? safety.passPhrase() : java.util.UUID.randomUUID().toString();
    return new InMemoryUserDetailsManager(
        User.withUsername("performer").password(encoder.encode(phrase)).build());
  }
}
