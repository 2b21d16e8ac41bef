package ancora.core.search;

import net.jqwik.api.lifecycle.AroundPropertyHook;
import net.jqwik.api.lifecycle.PropagationMode;
import net.jqwik.api.lifecycle.PropertyAttributes;
import net.jqwik.api.lifecycle.PropertyExecutionResult;
import net.jqwik.api.lifecycle.PropertyExecutor;
import net.jqwik.api.lifecycle.PropertyLifecycleContext;

/** Lets each property draw what {@link Search} says; jqwik finds it as a service. */
public final class SearchedProperties implements AroundPropertyHook {

  private static final int USUAL_TRIES = 1000;

  @Override
  public PropagationMode propagateTo() {
    return PropagationMode.ALL_DESCENDANTS;
  }

  @Override
  public PropertyExecutionResult aroundProperty(
      PropertyLifecycleContext context, PropertyExecutor property) throws Throwable {
    PropertyAttributes attributes = context.attributes();
    attributes.setSeed(String.valueOf(Search.SEED));
    attributes.setTries(Search.samples(attributes.tries().orElse(USUAL_TRIES)));
    return property.execute();
  }
}
