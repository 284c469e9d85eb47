package app.uprightwarden.server.limits;

import java.util.Arrays;
import java.util.LinkedHashSet;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.apache.catalina.valves.RemoteIpValve;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.tomcat.servlet.TomcatServletWebServerFactory;
import org.springframework.stereotype.Component;

/**
 * The proxies whose word on where a request comes from is believed (X-Forwarded-For and -Proto):
 * those that the operator names by their addresses, and no others.
 */
@Component
class TrustedProxies {
  private static final int MAX = 50;
  private static final Pattern ADDRESS = Pattern.compile("[0-9a-fA-F:.]{2,45}");

  private final Set<String> addresses;

  TrustedProxies(
      @Value("${warden.proxies:}") String named, @Value("${warden.forwarded:}") String old) {
    if (!old.isBlank() && !old.equals("none")) {
      throw new IllegalStateException(
          "WARDEN_FORWARDED is no more: name your proxies by address in WARDEN_PROXIES, such as"
              + " 127.0.0.1 or 10.0.0.5,10.0.0.6");
    }
    addresses =
        Arrays.stream(named.split(","))
            .map(String::strip)
            .filter(address -> !address.isEmpty())
            .collect(Collectors.toCollection(LinkedHashSet::new));
    for (String address : addresses) {
      if (!ADDRESS.matcher(address).matches() || addresses.size() > MAX) {
        throw new IllegalStateException(
            "WARDEN_PROXIES takes up to "
                + MAX
                + " addresses, apart by commas; this is none: "
                + address);
      }
    }
  }

  void into(TomcatServletWebServerFactory factory) {
    if (addresses.isEmpty()) {
      return;
    }
    RemoteIpValve valve = new RemoteIpValve();
    valve.setInternalProxies(
        addresses.stream().map(Pattern::quote).collect(Collectors.joining("|")));
    valve.setTrustedProxies(null);
    valve.setRemoteIpHeader("X-Forwarded-For");
    valve.setProtocolHeader("X-Forwarded-Proto");
    factory.addEngineValves(valve);
    CappedConnections.leaveOut(addresses);
  }
}
