package app.uprightwarden.server.sources;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertNotNull;
import static org.testng.Assert.assertNull;
import static org.testng.Assert.assertThrows;

import java.net.InetAddress;
import java.net.URI;
import java.net.UnknownHostException;
import java.util.Set;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Which addresses are reached from everywhere: RFC 6890 sections 2.2.2 and 2.2.3, and beyond. */
public class SourceAddressesTest {
  @DataProvider
  public Object[][] addresses() {
    return new Object[][] {
      {"0.1.2.3", false}, // "this host on this network"
      {"10.0.0.1", false},
      {"100.64.0.1", false}, // shared address space
      {"100.128.0.1", true},
      {"127.0.0.1", false},
      {"169.254.169.254", false}, // link-local
      {"172.16.0.1", false},
      {"172.32.0.1", true},
      {"192.0.0.8", false}, // protocol assignments
      {"192.168.1.1", false},
      {"198.18.0.1", false}, // benchmarking
      {"198.20.0.1", true},
      {"224.0.0.1", false},
      {"240.0.0.1", false}, // reserved
      {"255.255.255.255", false},
      {"8.8.8.8", true},
      {"::1", false},
      {"::", false},
      {"::ffff:10.0.0.1", false}, // IPv4-mapped
      {"64:ff9b::a00:1", false}, // translated
      {"2002:a00:1::", false}, // 6to4 of 10.0.0.1
      {"2001::1", false}, // Teredo
      {"fc00::1", false}, // unique local
      {"fe80::1", false},
      {"ff02::1", false},
      {"2606:4700::1", true},
    };
  }

  @Test(dataProvider = "addresses")
  public void onlyWhatAnybodyReachesIsAsked(String address, boolean isPublic)
      throws UnknownHostException {
    assertEquals(SourceAddresses.isPublic(InetAddress.getByName(address)), isPublic);
  }

  @Test
  public void hostsThatTheConfigurationNamesAreInTheHouseAndAllowed() throws SourceTrouble {
    SourceAddresses addresses = new SourceAddresses(Set.of("Calendar.House", "127.0.0.1"));
    assertNull(addresses.fault("http://calendar.house/team"));
    addresses.check(URI.create("http://127.0.0.1:81/"));
    assertNotNull(addresses.fault("http://calendar.example.org/team"), "in the clear");
    assertNull(addresses.fault("https://calendar.example.org/team"));
    assertThrows(SourceTrouble.class, () -> addresses.check(URI.create("https://localhost/")));
    assertThrows(SourceTrouble.class, () -> addresses.check(URI.create("https://[::1]/")));
    assertThrows(SourceTrouble.class, () -> addresses.check(URI.create("ftp://127.0.0.1/")));
  }
}
