package app.uprightwarden.server.jobs;

import java.time.Duration;

/**
 * Something that is done again and again, by one of the servers at a time. Where it fails it is
 * done again after a longer pause, and is shown as being in trouble until it succeeds.
 *
 * @param name as it is stored: {@code waivers}; 40 characters at most
 * @param title what it is called where somebody reads of it
 * @param every how long after its end it is done again
 */
public record RecurringJob(String name, String title, Duration every, Runnable work) {}
