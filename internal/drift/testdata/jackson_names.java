// document: {"url":"u","active":true,"port_code":"SAL","depth":4,"notes":["a"],"kind":"car","at":"2026-03-01T09:30:00Z"}
// document: {"URL":"v","isActive":false,"portCode":"MUL","depth":"4,5","notes":"a","kind":"truck","at":"yesterday"}
// lost: 1
import com.fasterxml.jackson.annotation.JsonAlias;
import com.fasterxml.jackson.annotation.JsonEnumDefaultValue;
import com.fasterxml.jackson.annotation.JsonProperty;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.util.Date;
import java.util.List;

public class Root {
    enum Kind { @JsonProperty("car") CAR, @JsonEnumDefaultValue OTHER }

    private String url; // want renamed-optional 1/2 in 1 as URL
    private boolean active; // want renamed-optional 1/2 in 1 as isActive
    @JsonProperty("port_code") @JsonAlias("portCode") private String portCode;
    private double depth; // want wrong-kind 1/2 in 1
    private List<String> notes;
    private Kind kind; // want kept-default 1/2 in 1
    private Date at; // want unreadable-date 1/2 in 1

    public String getURL() { return url; }
    public void setURL(String url) { this.url = url; }
    public boolean isActive() { return active; }
    public void setActive(boolean active) { this.active = active; }
    public void setDepth(double depth) { this.depth = depth; }
    public void setNotes(List<String> notes) { this.notes = notes; }
    public void setKind(Kind kind) { this.kind = kind; }
    public void setAt(Date at) { this.at = at; }

    private static final ObjectMapper MAPPER = new ObjectMapper()
        .configure(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES, false)
        .enable(DeserializationFeature.ACCEPT_SINGLE_VALUE_AS_ARRAY)
        .enable(DeserializationFeature.READ_UNKNOWN_ENUM_VALUES_USING_DEFAULT_VALUE);
    static Root load(String text) throws Exception { return MAPPER.readValue(text, Root.class); }
}
