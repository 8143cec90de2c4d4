// document: {"tags":["a",null],"codes":[1,2],"port":"SAL","deck":3,"seats":4,"when":"2026-03-01"}
// document: {"tags":null,"codes":[1,null],"port":null,"deck":null,"seats":null,"when":null}
// document: {"tags":["b"],"codes":[],"port":"","deck":"","seats":5}
// lost: 1 exactly
import com.fasterxml.jackson.annotation.*;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.util.*;

public class Root {
    @JsonSetter(contentNulls = Nulls.SKIP) public List<String> tags;
    @JsonSetter(contentNulls = Nulls.FAIL) public List<Integer> codes; // want null-value 1/4 in 1
    @JsonSetter(nulls = Nulls.SKIP) public String port = "TOR";
    public int deck; // want silent-zero 2/3 in 2
    public Integer seats;
    public Date when;
    Root load(String json) throws Exception { return new ObjectMapper().readValue(json, Root.class); }
}
