package app.uprightwarden.server.access;

/**
 * Somebody's credentials were set with another's help. It is published in the transaction that does
 * it, for the ledger and for the letters to both.
 *
 * @param account whose
 * @param name what the account's owner is called
 * @param by who made the link, or took the second factor away
 * @param how what happened, as a sentence about the account
 */
public record CredentialsSet(String account, String name, String by, String how) {}
