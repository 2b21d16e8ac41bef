/** What a start that fails says; found by Spring Boot in META-INF/spring.factories. */
package ancora.app.start;
