package ferry.saltmere;
import com.google.gson.Gson;
import com.google.gson.reflect.TypeToken;
import java.lang.reflect.Type;
import java.util.List;
import java.util.function.Consumer;
import java.util.function.Function;

class Pier { String code; }
class Ferry { String name; }
class Fare { int pence; }
class Notice { String text; }
class Envelope<T> { T data; String status; }

interface Parser<T> { T parse(String text); }
class GsonParser<T> implements Parser<T> {
    private final Gson gson = new Gson();
    private final Type type;
    GsonParser(Type type) { this.type = type; }
    @Override public T parse(String text) { return gson.fromJson(text, type); }
}
class Request<T> {
    final String path; final Parser<T> parser;
    Request(String path, Parser<T> parser) { this.path = path; this.parser = parser; }
}
class Requests {
    static Request<List<Pier>> piers() { return new Request<>("/v5/piers", new GsonParser<>(new TypeToken<List<Pier>>() {}.getType())); }     // asks List<Pier> v5/piers
    static Request<Ferry> ferry(int id) { return new Request<>("/v5/ferries/" + id, new GsonParser<>(Ferry.class)); }     // asks Ferry v5/ferries/{}
}
class Client {
    private static final Gson GSON = new Gson();
    <T> void get(String path, Class<T> type, Consumer<T> done) { done.accept(GSON.fromJson(read(path), type)); }
    <T> T map(String path, Function<String, T> by) { return by.apply(read(path)); }
    <T> Envelope<T> envelope(String path, Class<T> of) {
        return GSON.fromJson(read(path), TypeToken.getParameterized(Envelope.class, of).getType());
    }
    String read(String path) { return ""; }
}
class Screens {
    private final Client client = new Client();
    void fare() { client.get("/v5/fare", Fare.class, f -> System.out.println(f.pence)); }     // asks Fare v5/fare
    Notice notice() { return client.map("/v5/notice", text -> new Gson().fromJson(text, Notice.class)); }     // asks Notice v5/notice
    void pier() { Envelope<Pier> e = client.envelope("/v5/pier", Pier.class); }     // asks Envelope<Pier> v5/pier
}
