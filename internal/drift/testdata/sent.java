package ferry.saltmere;

import com.fasterxml.jackson.annotation.*;
import com.fasterxml.jackson.databind.*;

// sent: {"sailing":4400,"vehicle":"van","length":null,"paid":"yes","when":1772964000000}
// sent: {"sailing":4401,"vehicle":"car","length":4.5,"paid":"no","when":1772964000001}
// lost: 0 exactly
class Root {
    public int sailing;
    private String kind; // want sent-renamed 2/2 in 2 as vehicle
    private Double length;
    private boolean paid; // want sent-otherwise 2/2 in 2
    public java.util.Date when;
    @JsonIgnore public String secret;
    private String hidden;

    @JsonProperty("vehicleKind") public String getKind() { return kind; }
    public Double getLength() { return length; }
    public boolean isPaid() { return paid; }
}

class Bookings {
    private final ObjectMapper mapper = new ObjectMapper();

    void book(Root booking) throws Exception {
        client.send("POST", "v2/bookings", mapper.writeValueAsString(booking));
    }
}
