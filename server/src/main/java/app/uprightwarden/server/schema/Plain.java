package app.uprightwarden.server.schema;

import java.lang.annotation.Documented;
import java.lang.annotation.ElementType;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import java.lang.annotation.Target;

/**
 * Says that a component holds values of controls in their plain form: a word, a number, or a list
 * of words; in a map, by the control's id, null where a value is taken away. The API's description
 * says so, and the front end's types follow.
 */
@Documented
@Retention(RetentionPolicy.RUNTIME)
@Target(ElementType.RECORD_COMPONENT)
public @interface Plain {}
