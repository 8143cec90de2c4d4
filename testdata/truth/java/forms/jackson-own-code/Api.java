import com.fasterxml.jackson.databind.*;
import com.fasterxml.jackson.databind.module.SimpleModule;
import java.io.IOException;

class Api {
  final ObjectMapper mapper = new ObjectMapper().registerModule(new SimpleModule().addDeserializer(Kind.class, new KindReader()));
  Berth load(String text) throws IOException { return mapper.readValue(text, Berth.class); }
}
