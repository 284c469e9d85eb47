package app.uprightwarden.server;

import io.swagger.v3.oas.models.Components;
import io.swagger.v3.oas.models.OpenAPI;
import io.swagger.v3.oas.models.info.Info;
import io.swagger.v3.oas.models.media.Schema;
import io.swagger.v3.oas.models.security.SecurityRequirement;
import io.swagger.v3.oas.models.security.SecurityScheme;
import io.swagger.v3.oas.models.servers.Server;
import java.util.List;
import java.util.Set;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** What the API's description says of itself; the rest is read off the controllers. */
@Configuration
class OpenApiConfig {
  @Bean
  OpenAPI description() {
    return new OpenAPI()
        .info(
            new Info()
                .title("Upright Warden")
                .version("1")
                .description(
                    "Everything the pages do, programs can do. Send an access token as"
                        + " Authorization: Bearer. Errors are RFC 9457 problem details."))
        .servers(List.of(new Server().url("/")))
        .components(
            new Components()
                .addSchemas("Plain", plain())
                .addSecuritySchemes(
                    "token", new SecurityScheme().type(SecurityScheme.Type.HTTP).scheme("bearer")))
        .addSecurityItem(new SecurityRequirement().addList("token"));
  }

  private static Schema<?> plain() {
    Schema<Object> list = new Schema<>();
    list.setTypes(Set.of("array"));
    list.setItems(new Schema<>().types(Set.of("string")));
    Schema<Object> plain = new Schema<>();
    plain.setDescription("A control's value: a word, a number, or a list of words.");
    plain.setAnyOf(
        List.of(
            new Schema<>().types(Set.of("string")), new Schema<>().types(Set.of("integer")), list));
    return plain;
  }
}
