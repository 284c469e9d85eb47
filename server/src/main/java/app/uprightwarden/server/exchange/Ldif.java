package app.uprightwarden.server.exchange;

import app.uprightwarden.server.people.Organisation;
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
  private static final int MOST = 200_000;

  private Ldif() {}

  /** What was found; lists refer to people of the same file. */
  record Found(FoundPeople people, List<ImportDirectory.Read<Organisation.Gathering>> lists) {}

  static Found read(String text, Organisation organisation) {
    FoundPeople people = new FoundPeople(organisation);
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
      while (count++ < MOST) {
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
    return new Found(people, groups.stream().map(g -> list(g, addresses)).toList());
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
            first(entry, mail, "displayName", "cn"),
            null,
            first(entry, "", "departmentNumber", "ou"),
            true,
            ""),
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

  private static ImportDirectory.Read<Organisation.Gathering> list(
      Entry group, Map<DN, String> addresses) {
    List<String> members = new ArrayList<>();
    int unknown = 0;
    for (String attribute : List.of("member", "uniqueMember")) {
      String[] values = group.getAttributeValues(attribute);
      for (String dn : values == null ? new String[0] : values) {
        String address = address(dn, addresses);
        if (address == null) {
          unknown++;
        } else if (!members.contains(address)) {
          members.add(address);
        }
      }
    }
    String name = first(group, group.getDN(), "cn");
    List<String> remarks =
        unknown == 0 ? List.of() : List.of(unknown + " members are not in the file");
    return new ImportDirectory.Read<>(
        new Organisation.Gathering(idOf(name), name, List.copyOf(members)),
        new ImportTally.Place(name, null, remarks));
  }

  private static @Nullable String address(String dn, Map<DN, String> addresses) {
    try {
      return addresses.get(new DN(dn));
    } catch (LDAPException e) {
      return null;
    }
  }

  /** An id from a name, of the letters that ids have. */
  static String idOf(String name) {
    String id =
        name.toLowerCase(java.util.Locale.ROOT)
            .replaceAll("[^a-z0-9]+", "-")
            .replaceAll("^-+|-+$", "");
    String known = id.isEmpty() ? "list" : id;
    return known.length() > 64 ? known.substring(0, 64) : known;
  }
}
