package ferry.saltmere;

import com.fasterxml.jackson.core.type.TypeReference;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.google.gson.Gson;
import com.google.gson.reflect.TypeToken;
import java.lang.reflect.Type;
import java.util.List;

class Port { public String code; }
class Sailing { public int id; }
class Envelope<T> { public T data; }

interface Callback<T> { void done(T value); }

class GsonClient {
    private static final Type SAILINGS = new TypeToken<List<Sailing>>() {}.getType();
    private final Gson gson = new Gson();

    Port port(String code) throws Exception {
        return get("v2/ports/" + code, Port.class); // asks Port v2/ports/{}
    }
    List<Sailing> sailings() throws Exception {
        return get("v2/sailings", SAILINGS); // asks List<Sailing> v2/sailings
    }
    Envelope<Port> first() throws Exception {
        Type type = new TypeToken<Envelope<Port>>() {}.getType();
        Envelope<Port> found = get("v2/ports/first", type); // asks Envelope<Port> v2/ports/first
        return found;
    }
    void all(Callback<List<Port>> callback) {
        enqueue("v2/ports", new TypeToken<List<Port>>() {}, callback); // asks List<Port> v2/ports
    }

    private <T> T get(String path, Type type) throws Exception {
        return gson.fromJson(Http.get("https://api.saltmere.example/" + path), type);
    }
    private <T> void enqueue(String path, TypeToken<T> token, Callback<T> callback) {
        Http.later(path, text -> {
            T value = gson.fromJson(text, token.getType());
            callback.done(value);
        });
    }
}

abstract class BaseApi<T> {
    private final ObjectMapper mapper = new ObjectMapper();
    private final Class<T> type;

    protected BaseApi(Class<T> type) {
        this.type = type;
    }
    T fetch(String path) throws Exception {
        return mapper.readValue(Http.get(path), type);
    }
}

class SailingApi extends BaseApi<Sailing> { // asks Sailing
    SailingApi() {
        super(Sailing.class);
    }
}
