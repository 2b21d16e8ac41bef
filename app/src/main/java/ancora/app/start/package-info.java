/**
 * What a start that fails says, found by Spring Boot in META-INF/spring.factories; and what goes
 * wrong later.
 */
package ancora.app.start;
