import com.fasterxml.jackson.databind.*;
class Fog { public int visibility; public Fog(@com.fasterxml.jackson.annotation.JsonProperty(value="visibility", required=true) int v) { visibility = v; } }
class Delay { public int minutes; }
class Socket {
  private final ObjectMapper mapper = new ObjectMapper().configure(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES, false);
  Object on(String text) throws Exception {
    JsonNode node = mapper.readTree(text);
    switch (node.get("type").asText()) {
      case "fog": return mapper.readValue(text, Fog.class); // asks Fog picked
      case "delay": return mapper.treeToValue(node, Delay.class); // asks Delay picked
      default: return null;
    }
  }
}
