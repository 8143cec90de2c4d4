// document: {"trip_id":1,"from_port":"A","to":"B"}
// document: {"tripId":1,"fromPort":"A","to":"B"}
// document: {"tripId":2,"fromPort":null,"to":"C","seats":3}
// document: {"to":"B"}
// lost: 2 exactly
import com.fasterxml.jackson.annotation.*;
import com.fasterxml.jackson.databind.*;
import com.fasterxml.jackson.databind.annotation.*;

@JsonNaming(PropertyNamingStrategies.SnakeCaseStrategy.class)
record Root( // want unknown-key 1/4 in 1
    int tripId, // want silent-zero 2/4 in 2; undecodable-type 1/1 in 1
    String fromPort, // want undecodable-type 1/1 in 1
    @JsonProperty("to") String toPort
) { }

class Api {
    Root load(String json) throws Exception { return new ObjectMapper().readValue(json, Root.class); }
}
