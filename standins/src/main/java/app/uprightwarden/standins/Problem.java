package app.uprightwarden.standins;

/** A request that cannot be answered with what was asked for. */
final class Problem extends Exception {
  private static final long serialVersionUID = 1;

  final int status;

  Problem(int status, String detail) {
    super(detail);
    this.status = status;
  }
}
