package ferry.saltmere.board;

import com.fasterxml.jackson.annotation.JsonIgnoreProperties;
import com.fasterxml.jackson.annotation.JsonProperty;

import java.net.URL;
import java.util.Map;

/** A vessel of the fleet, with what it can carry. */
@JsonIgnoreProperties(ignoreUnknown = true)
public class Vessel {
    public String name;
    @JsonProperty("call_sign") public String callSign;
    public int tonnage;
    public Capacity capacity;
    public int built;
    public URL website;
    public Map<String, Integer> crew;

    public static class Capacity {
        public int passengers;
        public int cars;
        public Integer bicycles;
    }
}
