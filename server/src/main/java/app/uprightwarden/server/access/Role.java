package app.uprightwarden.server.access;

import java.util.Locale;

/**
 * What an account may do: a warden everything; a unit's warden drafts for that unit, audits and
 * mends it and runs its sessions; an auditor reads all; a host has their own meetings. A directory
 * keeps people and lists up to date and does nothing else; only tokens have that role.
 */
public enum Role {
  WARDEN,
  UNIT_WARDEN,
  AUDITOR,
  HOST,
  DIRECTORY;

  /** As it is written: {@code unit-warden}. */
  public String id() {
    return name().toLowerCase(Locale.ROOT).replace('_', '-');
  }

  public static Role byId(String id) {
    return valueOf(id.toUpperCase(Locale.ROOT).replace('-', '_'));
  }
}
