package app.uprightwarden.core.exposure;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertNull;

import org.testng.annotations.Test;

public class BandTest {
  @Test
  public void eachExposureIsInOneBand() {
    for (int tenths = 0; tenths <= 1000; tenths++) {
      int in = 0;
      for (Band band : Band.values()) {
        if (tenths >= band.fromTenths() && tenths < band.toTenths()) {
          in++;
          assertEquals(Band.ofTenths(tenths), band, "at " + tenths);
        }
      }
      assertEquals(in, 1, "at " + tenths);
    }
    assertEquals(Band.GUARDED.fromTenths(), 100);
    assertEquals(Band.AJAR.toTenths(), 500);
  }

  @Test
  public void aBandIsFoundByItsId() {
    for (Band band : Band.values()) {
      assertEquals(Band.byId(band.id()), band);
    }
    assertEquals(Band.byId("ajar"), Band.AJAR);
    assertNull(Band.byId("wide"));
  }
}
