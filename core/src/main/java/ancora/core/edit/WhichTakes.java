package ancora.core.edit;

/** In which takes of a clip something is edited. */
public enum WhichTakes {
  HEARD,
  ALL
}
