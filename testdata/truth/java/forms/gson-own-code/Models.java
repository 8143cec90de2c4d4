import com.google.gson.*;
import com.google.gson.annotations.*;
import com.google.gson.reflect.*;
import com.google.gson.stream.*;
import java.io.IOException;
import java.lang.reflect.Type;
import java.util.*;

enum Kind { QUAY(1), BUOY(2); final int code; Kind(int code) { this.code = code; } public int getCode() { return code; } }
class KindReader implements JsonDeserializer<Kind> {
  @Override public Kind deserialize(JsonElement json, Type type, JsonDeserializationContext context) throws JsonParseException {
    int code = json.getAsInt();
    for (Kind k : Kind.values()) { if (k.code == code) { return k; } }
    throw new JsonParseException("no kind " + code);
  }
}
class Place { String name; Place(String name) { this.name = name; } }
class PlaceReader implements JsonDeserializer<Place> {
  public Place deserialize(JsonElement json, Type type, JsonDeserializationContext context) {
    if (json.isJsonObject()) { JsonObject o = json.getAsJsonObject(); return new Place(o.has("name") ? o.get("name").getAsString() : "?"); }
    return new Place(json.getAsString().trim());
  }
}
class Metres extends TypeAdapter<String> {
  @Override public String read(JsonReader in) throws IOException {
    if (in.peek() == JsonToken.NULL) { in.nextNull(); return "none"; }
    if (in.peek() == JsonToken.BEGIN_OBJECT) {
      String unit = "m"; double value = 0;
      in.beginObject();
      while (in.hasNext()) {
        switch (in.nextName()) {
          case "unit": unit = in.nextString(); break;
          case "value": value = in.nextDouble(); break;
          default: in.skipValue();
        }
      }
      in.endObject();
      return value + unit;
    }
    return in.nextString();
  }
  @Override public void write(JsonWriter out, String v) { }
}
class Berth { Kind kind; Place place; @JsonAdapter(Metres.class) String depth; @JsonAdapter(value = Metres.class, nullSafe = false) String height; }
