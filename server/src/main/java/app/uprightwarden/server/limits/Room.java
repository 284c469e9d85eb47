package app.uprightwarden.server.limits;

import java.util.concurrent.atomic.AtomicLong;

/** So much of something, shared by all who need some for a while. */
final class Room {
  private final long all;
  private final AtomicLong taken = new AtomicLong();

  Room(long all) {
    this.all = all;
  }

  /** Takes some, or nothing where there is not enough left. */
  boolean take(long some) {
    if (taken.addAndGet(some) > all) {
      taken.addAndGet(-some);
      return false;
    }
    return true;
  }

  void give(long some) {
    taken.addAndGet(-some);
  }
}
