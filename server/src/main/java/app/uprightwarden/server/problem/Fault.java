package app.uprightwarden.server.problem;

/**
 * One thing wrong with a document.
 *
 * @param pointer RFC 6901 JSON Pointer to the place; empty for the whole document
 * @param message what is wrong and what may stand
 */
public record Fault(String pointer, @Worded String message) {}
