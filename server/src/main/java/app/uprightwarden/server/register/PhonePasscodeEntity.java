package app.uprightwarden.server.register;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;

/** The digits that open one meeting from a telephone's keys. */
@Entity
@Table(name = "phone_passcode")
class PhonePasscodeEntity {
  @Id String meeting = "";

  byte[] cipher = {};

  protected PhonePasscodeEntity() {}

  PhonePasscodeEntity(String meeting, byte[] cipher) {
    this.meeting = meeting;
    this.cipher = cipher;
  }
}
