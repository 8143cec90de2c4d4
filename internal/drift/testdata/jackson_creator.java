// document: {"id":1,"name":"Tern","berth":{"at":"A1"},"extra":true}
// document: {"id":2,"berth":"B2","secret":1}
// document: {"name":"Gull","id":3.5}
// lost: 1 exactly
import com.fasterxml.jackson.annotation.*;
import com.fasterxml.jackson.databind.*;
import com.fasterxml.jackson.databind.json.JsonMapper;

@JsonIgnoreProperties("secret")
public class Root { // want unread-keys extra,secret
    private final long id; // want lost-digits 1/3 in 1
    private final String name; // want missing-key 1/3 in 1
    public Berth berth;

    @JsonCreator Root(@JsonProperty("id") long id, @JsonProperty(value = "name", required = true) String name) {
        this.id = id;
        this.name = name;
    }

    static class Berth {
        public String at;
        Berth() { }
        Berth(String text) { at = text; }
    }

    static final ObjectMapper MAPPER = JsonMapper.builder().disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES).build();
    static Root load(String json) throws Exception { return MAPPER.readValue(json, Root.class); }
}
