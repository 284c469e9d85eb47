package app.uprightwarden.server.exchange;

import com.unboundid.ldap.sdk.DN;
import com.unboundid.ldap.sdk.Entry;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldif.LDIFAddChangeRecord;
import com.unboundid.ldif.LDIFException;
import com.unboundid.ldif.LDIFReader;
import com.unboundid.ldif.LDIFRecord;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.StringReader;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.NoSuchElementException;
import org.jspecify.annotations.Nullable;

/**
 * People and lists from a directory's LDIF (RFC 2849): entries with a mail address are people,
 * groups are lists. What it says of changes other than additions is refused, each for itself.
 */
final class Ldif {
  private static final int MAX = 200_000;
  private static final int ACCOUNT_DISABLED = 2;

  private Ldif() {}

  /** What was found; lists refer to people of the same file. */
  record Found(FoundPeople people, List<FoundGroups.Raw> lists) {}

  static Found read(String text, FoundPeople people) {
    String plain =
        LdifReferences.without(
            text,
            line ->
                people.refuse(
                    "",
                    "",
                    line,
                    "a value stands in another file (“:<”); nothing is opened by reference. Write"
                        + " the value itself."));
    List<Entry> groups = new ArrayList<>();
    Map<DN, String> addresses = new HashMap<>();
    try (LDIFReader reader = new LDIFReader(new BufferedReader(new StringReader(plain)))) {
      int count = 0;
      while (count++ < MAX) {
        LDIFRecord record;
        try {
          record = reader.readLDIFRecord();
        } catch (LDIFException e) {
          people.refuse("", "", (int) e.getLineNumber(), String.valueOf(e.getMessage()));
          if (!e.mayContinueReading()) {
            break;
          }
          continue;
        } catch (NoSuchElementException | IndexOutOfBoundsException e) {
          // the library takes a record for one of changes and looks for what is not there
          people.refuse("", "", null, "a record is cut short, or is no entry");
          continue;
        }
        if (record == null) {
          break;
        }
        take(record, people, groups, addresses);
      }
    } catch (IOException e) {
      throw new UncheckedIOException("a text can always be read", e);
    }
    return new Found(
        people,
        FoundGroups.lists(
            groups.stream().map(Ldif::group).toList(),
            Ldif::keyOf,
            member -> address(member, addresses, people)));
  }

  private static void take(
      LDIFRecord record, FoundPeople people, List<Entry> groups, Map<DN, String> addresses) {
    Entry entry;
    if (record instanceof Entry plain) {
      entry = plain;
    } else if (record instanceof LDIFAddChangeRecord add) {
      entry = add.getEntryToAdd();
    } else {
      people.refuse(
          "",
          record.getDN(),
          null,
          "this record tells of a change; only whole entries and additions are taken");
      return;
    }
    if (entry.hasAttribute("member") || entry.hasAttribute("uniqueMember")) {
      groups.add(entry);
      return;
    }
    String mail = entry.getAttributeValue("mail");
    if (mail == null) {
      return; // a unit, a country, a machine
    }
    try {
      addresses.put(new DN(entry.getDN()), mail);
    } catch (LDAPException e) {
      people.refuse(mail, entry.getDN(), null, "its name cannot be read: " + e.getMessage());
      return;
    }
    people.add(
        new FoundPeople.Raw(
            mail.strip(),
            first(entry, "", "displayName", "cn"),
            null,
            first(entry, "", "departmentNumber", "ou"),
            active(entry),
            null),
        null);
  }

  private static String first(Entry entry, String otherwise, String... names) {
    for (String name : names) {
      String value = entry.getAttributeValue(name);
      if (value != null && !value.isBlank()) {
        return value;
      }
    }
    return otherwise;
  }

  /**
   * Whether the account may be used, by the attributes that directories keep it in; null where the
   * entry has none of them. That a bit of {@code userAccountControl} disables an account, and the
   * names of the others, are common practice.
   */
  private static @Nullable String active(Entry entry) {
    Integer control = entry.getAttributeValueAsInteger("userAccountControl");
    if (control != null) {
      return (control & ACCOUNT_DISABLED) == 0 ? "yes" : "no";
    }
    for (String name : List.of("nsAccountLock", "loginDisabled", "accountDisabled")) {
      String value = entry.getAttributeValue(name);
      if (value != null) {
        return value.strip().equalsIgnoreCase("true") ? "no" : "yes";
      }
    }
    return null;
  }

  private static FoundGroups.Nested group(Entry entry) {
    List<String> members = new ArrayList<>();
    for (String attribute : List.of("member", "uniqueMember")) {
      String[] values = entry.getAttributeValues(attribute);
      members.addAll(values == null ? List.of() : List.of(values));
    }
    return new FoundGroups.Nested(
        keyOf(entry.getDN()), first(entry, entry.getDN(), "displayName", "cn"), members);
  }

  /** A DN as it compares with others, whatever its case and spaces. */
  private static String keyOf(String dn) {
    try {
      return new DN(dn).toNormalizedString();
    } catch (LDAPException e) {
      return dn;
    }
  }

  /** A member's address: as the file has it, or by the first part of the DN as it is known here. */
  private static @Nullable String address(
      String dn, Map<DN, String> addresses, FoundPeople people) {
    try {
      DN name = new DN(dn);
      String inFile = addresses.get(name);
      if (inFile != null || name.getRDN() == null) {
        return inFile;
      }
      for (String value : name.getRDN().getAttributeValues()) {
        String known = people.addressOf(value);
        if (known != null) {
          return known;
        }
      }
      return null;
    } catch (LDAPException e) {
      return null;
    }
  }
}
