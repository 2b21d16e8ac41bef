package ancora.app.files;

import java.util.List;

/**
 * What became of a file.
 *
 * @param show the number of the show that it is in now
 * @param title what that is called
 * @param what what came in, in a sentence
 * @param leftOut what did not, in sentences
 */
public record CameIn(long show, String title, String what, List<String> leftOut) {}
