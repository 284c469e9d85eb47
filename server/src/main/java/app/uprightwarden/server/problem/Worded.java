package app.uprightwarden.server.problem;

import java.lang.annotation.ElementType;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import java.lang.annotation.Target;

/**
 * A text of ours that people read, or a list of such texts. It is kept and compared in English; an
 * answer has it in the language that was asked for, as {@link Sentences} knows it.
 */
@Retention(RetentionPolicy.RUNTIME)
@Target({ElementType.FIELD, ElementType.METHOD, ElementType.RECORD_COMPONENT})
public @interface Worded {}
