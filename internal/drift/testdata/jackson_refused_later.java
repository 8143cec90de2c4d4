import com.fasterxml.jackson.annotation.*;
import com.fasterxml.jackson.databind.*;

// What is refused of a subtype fails the responses that hold one.
class Root {
    public String name;
    public Notice notice;
}
@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
@JsonSubTypes({@JsonSubTypes.Type(value = Delay.class, name = "delay"), @JsonSubTypes.Type(value = Strike.class, name = "strike")})
abstract class Notice { }
class Delay extends Notice { @JsonCreator Delay(int minutes, int hours) { } } // want undecodable-type 1/2 in 1
class Strike extends Notice { public int days; }
class Api { ObjectMapper mapper = new ObjectMapper(); Root load(String json) throws Exception { return mapper.readValue(json, Root.class); } }
// document: {"name":"a"}
// document: {"name":"a","notice":{"kind":"strike","days":1}}
// document: {"name":"a","notice":{"kind":"delay"}}
// document: {"name":"a","notice":null}
// lost: 1 exactly
