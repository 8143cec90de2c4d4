import com.fasterxml.jackson.annotation.*;
import com.fasterxml.jackson.databind.*;
import java.util.*;

// A class that Jackson refuses fails every response, also one that does not hold it.
class Root {
    public String name;
    public List<Berth> berths; // Berth leads to Deck
    public Notice notice; // of whose subtypes one is refused, where it is sent
}
class Berth { public Deck deck; }
class Deck { // want undecodable-type 3/3 in 3
    private int level;
    @JsonProperty("level") void setA(int a) { level = a; }
    @JsonProperty("level") void setB(int b) { level = b; }
}
@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
@JsonSubTypes(@JsonSubTypes.Type(value = Delay.class, name = "delay"))
abstract class Notice { }
class Delay extends Notice { @JsonCreator Delay(int minutes, int hours) { } }
class Api { ObjectMapper mapper = new ObjectMapper(); Root load(String json) throws Exception { return mapper.readValue(json, Root.class); } }
// document: {"name":"a"}
// document: {"name":"a","berths":[{"deck":{"level":1}}],"notice":null}
// document: {"name":"a","notice":{"kind":"delay"}}
// lost: 3 exactly
