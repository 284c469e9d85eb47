package app.uprightwarden.server.vault;

import java.nio.file.Path;
import org.springframework.boot.context.properties.ConfigurationProperties;

/**
 * @param secretFile the keys that secrets are sealed with; made on first start, kept outside the
 *     database
 * @param demo whether to load the demo organisation into an empty database
 * @param scale how many meetings the demo organisation is to have, at least, for measuring
 */
@ConfigurationProperties("warden")
public record SecretProperties(Path secretFile, boolean demo, int scale) {}
