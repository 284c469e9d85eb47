package app.uprightwarden.server.services;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;

/** The service in which new meetings of a unit are made. */
@Entity
@Table(name = "service_home")
class ServiceHomeEntity {
  /** Stands for every unit that has no service of its own. */
  static final String EVERYBODY = "";

  @Id String unit = "";

  long service;
}
