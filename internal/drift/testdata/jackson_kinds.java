// document: {"notices":[{"kind":"delay","minutes":5,"port":{"code":"SAL"}},{"kind":"berth","berth":"A4"}]}
// document: {"notices":[{"kind":"delay","minutes":"five","port":{"code":"WIC"}},{"kind":"berth","berth":"B1","tide":2}]}
// document: {"notices":[{"berth":7,"kind":"berth"},{"kind":"fog","minutes":true}]}
// document: {"notices":[{"kind":"delay","minutes":null,"port":{"code":"SAL"},"berth":[]}]}
// lost: 2 exactly
import com.fasterxml.jackson.annotation.*;
import com.fasterxml.jackson.databind.*;
import java.util.*;

public class Root {
    public List<Notice> notices;
    Root load(String json) throws Exception { return new ObjectMapper().configure(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES, false).readValue(json, Root.class); }
}

@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
@JsonSubTypes({@JsonSubTypes.Type(value = Delay.class, name = "delay"), @JsonSubTypes.Type(value = Berth.class, name = "berth")})
interface Notice { } // want unknown-class 1/7 in 1

class Delay implements Notice { // want unread-keys berth
    public int minutes; // want wrong-kind 1/3 in 1; silent-zero 1/3 in 1
    public Port port;
}

class Berth implements Notice { // want unread-keys tide
    public Pier berth; // want unknown-constant 1/3 in 1
}

enum Pier { A4, B1 }

class Port { public String code; }
