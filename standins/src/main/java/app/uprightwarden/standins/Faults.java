package app.uprightwarden.standins;

/** How a stand-in is to go wrong. Set from its page, and by tests. */
public final class Faults {
  /** It does not answer. */
  public volatile boolean away;

  /** How long it takes to answer, in milliseconds. */
  public volatile int slowMillis;

  /** Every third request is answered with 500. */
  public volatile boolean failing;

  /** It refuses every change. */
  public volatile boolean refuses;

  /** It says that a change was done and does nothing. */
  public volatile boolean lies;

  /** It tells every change twice. */
  public volatile boolean repeats;

  /** It does not know the key any more. */
  public volatile boolean keyWithdrawn;

  /** It answers a change only after the one who asked has gone: the change is done, unheard. */
  public volatile boolean deaf;

  /** It says of every request that it was asked too often. */
  public volatile boolean busy;

  /** Nothing goes wrong any more. */
  public void clear() {
    away = false;
    slowMillis = 0;
    failing = false;
    refuses = false;
    lies = false;
    repeats = false;
    keyWithdrawn = false;
    deaf = false;
    busy = false;
  }
}
