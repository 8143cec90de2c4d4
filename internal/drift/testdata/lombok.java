// document: {"id":1,"portCode":"SAL","open":true,"mURL":"x"}
// document: {"id":"a","portCode":null,"open":"yes","murl":"y"}
// lost: 1 exactly
import com.fasterxml.jackson.annotation.*;
import com.fasterxml.jackson.databind.*;
import lombok.*;

@Data
@JsonIgnoreProperties(ignoreUnknown = true)
public class Root {
    private int id; // want wrong-kind 1/2 in 1
    private String portCode;
    private boolean isOpen; // want wrong-kind 1/2 in 1
    private String mURL; // want renamed-optional 1/2 in 1 as mURL
    static Root load(String json) throws Exception { return new ObjectMapper().readValue(json, Root.class); }
}
