package app.uprightwarden.server.limits;

import java.lang.annotation.ElementType;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import java.lang.annotation.Target;

/**
 * What a call takes, where that is other than usual: 64 KB from a stranger, 256 KB from somebody
 * who is signed in. A stranger's limit is the usual one whatever stands here.
 */
@Retention(RetentionPolicy.RUNTIME)
@Target({ElementType.TYPE, ElementType.METHOD})
public @interface Takes {
  /** The largest body, in KB of 1024 bytes. */
  int kilobytes() default 256;

  /**
   * Whether it is much work: then one person has one of them under way at a time, and all together
   * a few.
   */
  boolean costly() default false;
}
