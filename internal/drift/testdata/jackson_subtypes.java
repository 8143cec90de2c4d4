// document: {"notices":[{"kind":"delay","minutes":5,"port":"SAL"},{"kind":"delay","minutes":9}]}
// document: {"notices":[{"kind":"fog","port":"SAL"}]}
// document: {"notices":[{"minutes":5}]}
// document: {"notices":["fog"]}
// lost: 3 exactly
import com.fasterxml.jackson.annotation.*;
import com.fasterxml.jackson.databind.*;
import java.util.*;

public class Root {
    public List<Notice> notices; // want wrong-kind 1/5 in 1
    Root load(String json) throws Exception { return new ObjectMapper().configure(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES, false).readValue(json, Root.class); }
}

@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
@JsonSubTypes(@JsonSubTypes.Type(value = Delay.class, name = "delay"))
interface Notice { } // want missing-key 1/4 in 1; unknown-class 1/3 in 1

class Delay implements Notice {
    public int minutes;
    public String port;
}
