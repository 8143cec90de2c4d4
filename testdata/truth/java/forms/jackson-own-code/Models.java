import com.fasterxml.jackson.annotation.*;
import com.fasterxml.jackson.core.*;
import com.fasterxml.jackson.databind.*;
import com.fasterxml.jackson.databind.annotation.*;
import com.fasterxml.jackson.databind.deser.std.StdDeserializer;
import com.fasterxml.jackson.databind.module.SimpleModule;
import java.io.IOException;

enum Kind { QUAY(1), BUOY(2); final int code; Kind(int code) { this.code = code; } }
class KindReader extends JsonDeserializer<Kind> {
  @Override public Kind deserialize(JsonParser p, DeserializationContext ctxt) throws IOException {
    int code = p.getIntValue();
    for (Kind k : Kind.values()) { if (k.code == code) return k; }
    throw new IllegalArgumentException("no kind " + code);
  }
}
class PlaceReader extends StdDeserializer<Place> {
  PlaceReader() { super(Place.class); }
  @Override public Place deserialize(JsonParser p, DeserializationContext ctxt) throws IOException {
    JsonNode node = p.getCodec().readTree(p);
    if (node.isObject()) { return new Place(node.has("name") ? node.get("name").asText() : "?", node.path("berth").asInt()); }
    return new Place(node.asText(), 0);
  }
}
@JsonDeserialize(using = PlaceReader.class)
class Place { public String name; public int berth; Place(String name, int berth) { this.name = name; this.berth = berth; } }
class Trimmed extends JsonDeserializer<String> {
  @Override public String deserialize(JsonParser p, DeserializationContext c) throws IOException { return p.getText().trim(); }
}
class Berth { public Kind kind; public Place place; @JsonDeserialize(using = Trimmed.class) public String note; public int n; }
