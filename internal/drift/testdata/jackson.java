// document: {"id":1,"full_name":"Tern","active":true,"level":"INFO","notice":{"kind":"delay","minutes":5}}
// document: {"id":2.5,"nm":"Gull","zone":4,"level":"severe","notice":{"kind":"delay","minutes":"x"}}
// document: {"id":null,"full_name":["a"],"level":1,"secret":2,"shown":3}
// lost: 2 exactly
import com.fasterxml.jackson.annotation.*;
import com.fasterxml.jackson.databind.ObjectMapper;

enum Level { INFO, @JsonProperty("warning") WARN }

@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
@JsonSubTypes({@JsonSubTypes.Type(value = Delay.class, name = "delay"), @JsonSubTypes.Type(value = Stop.class, name = "stop")})
abstract class Notice { }
class Delay extends Notice {
    public int minutes; // want wrong-kind 1/2 in 1
}
class Stop extends Notice { public String reason; }

public class Root { // want unknown-key 1/3 in 1
    public int id; // want lost-digits 1/3 in 1; silent-zero 1/3 in 1
    @JsonProperty("full_name") @JsonAlias("nm") private String name; // want list-mismatch 1/2 in 1
    private boolean isActive; // want silent-zero 2/3 in 2
    public boolean isActive() { return isActive; }
    public void setActive(boolean active) { isActive = active; }
    public Level level; // want unknown-constant 1/3 in 1
    public Notice notice;
    @JsonIgnore public int secret; // want never-read 1/1 in 1
    private int shown; // want silent-zero 2/3 in 2
    public int getShown() { return shown; }
    Root load(String json) throws Exception { return new ObjectMapper().readValue(json, Root.class); }
}
