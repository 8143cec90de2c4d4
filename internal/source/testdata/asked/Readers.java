package saltmere;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.PropertyNamingStrategies;

class Pier { public String code; }
class Ferry { public String name; }

// readers that set something for themselves, over one of several mappers of a name
class Strict {
    private final ObjectMapper mapper = new ObjectMapper();
    Pier pier(String text) throws Exception { return mapper.readerFor(Pier.class).without(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES).readValue(text); } // asks Pier by FAIL_ON_UNKNOWN_PROPERTIES false
}
class Snake {
    private final ObjectMapper mapper = new ObjectMapper().setPropertyNamingStrategy(PropertyNamingStrategies.SNAKE_CASE);
    Ferry ferry(String text) throws Exception { return mapper.readerFor(Ferry.class).without(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES).readValue(text); } // asks Ferry by FAIL_ON_UNKNOWN_PROPERTIES false, naming SNAKE_CASE
    Ferry plain(String text) throws Exception { return mapper.readValue(text, Ferry.class); } // asks Ferry by naming SNAKE_CASE
}
