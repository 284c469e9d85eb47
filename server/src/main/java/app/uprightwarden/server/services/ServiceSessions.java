package app.uprightwarden.server.services;

import app.uprightwarden.core.session.Order;
import app.uprightwarden.core.session.SessionEvent;
import app.uprightwarden.core.session.SessionPlan;
import app.uprightwarden.core.session.Wire;
import app.uprightwarden.server.bridge.SessionHolder;
import app.uprightwarden.server.bridge.SessionHolders;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** The sessions of linked services: asked within their rate, whatever else they are asked. */
@Component
class ServiceSessions implements SessionHolders.LinkedSessions {
  private final ServiceLinks links;
  private final Paces paces;

  ServiceSessions(ServiceLinks links, Paces paces) {
    this.links = links;
    this.paces = paces;
  }

  @Override
  public @Nullable SessionHolder of(long service) {
    ServiceLinks.Spoken spoken = links.spoken(service);
    return spoken == null ? null : new Holder(spoken, paces.of(service));
  }

  @Override
  public boolean holds(long service, boolean practice) {
    ServiceLinks.Spoken spoken = links.spoken(service);
    return spoken != null
        && isWritten(spoken)
        && spoken.about().sessions()
        && (!practice || spoken.about().practice());
  }

  /** Opening a session and ordering something in it is writing. */
  private static boolean isWritten(ServiceLinks.Spoken spoken) {
    return spoken.level().equals("write");
  }

  private record Holder(ServiceLinks.Spoken spoken, Paces.Pace pace) implements SessionHolder {
    private interface Asking<T> {
      T ask(ConferenceService service) throws ServiceTrouble, Away;
    }

    private <T> T ask(Asking<T> asking) throws Away {
      if (spoken.isPaused()) {
        throw new Away(spoken.name() + " is paused");
      }
      pace.await(spoken.about().perSecond());
      try {
        return asking.ask(spoken.service());
      } catch (ServiceTrouble e) {
        throw new Away(spoken.name() + " " + e.words());
      }
    }

    @Override
    public void open(SessionPlan plan) throws Away {
      if (!isWritten(spoken)) {
        throw new Away(spoken.name() + " is not linked for writing any more");
      }
      ask(
          service -> {
            service.open(plan);
            return plan.id();
          });
    }

    @Override
    public Wire.Answered order(String session, String id, Order order, String by) throws Away {
      if (!isWritten(spoken)) {
        return new Wire.Answered(false, spoken.name() + " is not linked for writing any more");
      }
      return ask(
          service -> {
            try {
              return service.order(session, Wire.OrderSent.of(id, by, order));
            } catch (ServiceTrouble e) {
              return switch (e.kind()) {
                case UNKNOWN ->
                    new Wire.Answered(false, spoken.name() + " knows no such session any more");
                case REFUSED -> new Wire.Answered(false, e.words());
                default -> throw e;
              };
            }
          });
    }

    @Override
    public @Nullable List<SessionEvent> eventsAfter(String session, long seq) throws Away {
      return ask(service -> {
            try {
              return Optional.of(service.events(session, seq));
            } catch (ServiceTrouble e) {
              if (e.kind() == ServiceTrouble.Kind.UNKNOWN) {
                return Optional.<List<SessionEvent>>empty();
              }
              throw e;
            }
          })
          .orElse(null);
    }
  }
}
