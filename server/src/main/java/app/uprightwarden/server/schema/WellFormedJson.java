package app.uprightwarden.server.schema;

import app.uprightwarden.server.problem.Texts;
import java.io.DataInput;
import java.io.InputStream;
import java.io.Reader;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JsonParser;
import tools.jackson.core.ObjectReadContext;
import tools.jackson.core.io.IOContext;
import tools.jackson.core.json.JsonFactory;
import tools.jackson.core.json.JsonFactoryBuilder;
import tools.jackson.core.util.JsonParserDelegate;

/**
 * Reads JSON whose texts come out well-formed: an escape of half a character ({@code "\ud800"}, RFC
 * 8259 section 8.2) reads as U+FFFD. Such a half is kept by no database and written by no encoder,
 * so that whatever was made of it here would not be what is stored. Control characters are left
 * out: no page, mail or table can hold them.
 */
public class WellFormedJson extends JsonFactory {
  private static final long serialVersionUID = 1;

  public WellFormedJson(JsonFactoryBuilder builder) {
    super(builder);
  }

  @Override
  public JsonFactory copy() {
    return new WellFormedJson(rebuild());
  }

  @Override
  public JsonFactory snapshot() {
    return this;
  }

  @Override
  protected JsonParser _createParser(ObjectReadContext read, IOContext context, InputStream in) {
    return new WellFormed(super._createParser(read, context, in));
  }

  @Override
  protected JsonParser _createParser(ObjectReadContext read, IOContext context, Reader in) {
    return new WellFormed(super._createParser(read, context, in));
  }

  @Override
  protected JsonParser _createParser(
      ObjectReadContext read, IOContext context, char[] in, int from, int length, boolean recycle) {
    return new WellFormed(super._createParser(read, context, in, from, length, recycle));
  }

  @Override
  protected JsonParser _createParser(
      ObjectReadContext read, IOContext context, byte[] in, int from, int length) {
    return new WellFormed(super._createParser(read, context, in, from, length));
  }

  @Override
  protected JsonParser _createParser(ObjectReadContext read, IOContext context, DataInput in) {
    return new WellFormed(super._createParser(read, context, in));
  }

  private static final class WellFormed extends JsonParserDelegate {
    WellFormed(JsonParser parser) {
      super(parser);
    }

    private static @Nullable String whole(@Nullable String text) {
      return text == null ? null : Texts.printable(Texts.wellFormed(text));
    }

    @Override
    public @Nullable String getString() {
      return whole(super.getString());
    }

    @Override
    public @Nullable String getValueAsString() {
      return whole(super.getValueAsString());
    }

    @Override
    public @Nullable String getValueAsString(@Nullable String otherwise) {
      return whole(super.getValueAsString(otherwise));
    }

    @Override
    public @Nullable String currentName() {
      return whole(super.currentName());
    }

    @Override
    public @Nullable String nextName() {
      return whole(super.nextName());
    }

    @Override
    public boolean hasStringCharacters() {
      return false; // so that nobody passes the text by
    }
  }
}
