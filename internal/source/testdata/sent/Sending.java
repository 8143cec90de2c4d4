package ferry;
import com.fasterxml.jackson.databind.ObjectMapper;
class Fare { public int amount; }
class JavaApi {
  private final ObjectMapper mapper = new ObjectMapper();
  void fare(Fare fare) throws Exception { post("/v2/fares", fare); }
  private String post(String path, Object body) throws Exception {
    HttpRequest r = HttpRequest.newBuilder().uri(URI.create(BASE + path)).POST(HttpRequest.BodyPublishers.ofString(mapper.writeValueAsString(body))).build();
    return client.send(r);
  }
}
