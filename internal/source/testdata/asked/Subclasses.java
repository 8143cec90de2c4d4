package ferry.saltmere;
import com.google.gson.Gson;
import com.google.gson.reflect.TypeToken;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.core.type.TypeReference;
import io.reactivex.Single;
import io.reactivex.Observable;
import java.lang.reflect.ParameterizedType;
import java.lang.reflect.Type;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.CompletableFuture;

class Pier { String code; }
class Ferry { String name; }
class Fare { int pence; }
class Notice { String text; }
class Pass { int id; }

abstract class ApiCallback<T> {
    final Type type = ((ParameterizedType) getClass().getGenericSuperclass()).getActualTypeArguments()[0];
    abstract void done(T value);
}
class CallbackClient {
    private final Gson gson = new Gson();
    <T> void get(String path, ApiCallback<T> callback) { T value = gson.fromJson(read(path), callback.type); callback.done(value); }
    String read(String path) { return ""; }
}
class PierScreen {
    void show(CallbackClient client) {
        client.get("v6/piers", new ApiCallback<List<Pier>>() {     // asks List<Pier> v6/piers
            @Override void done(List<Pier> piers) { }
        });
    }
}
class GsonRequest<T> {
    private final Gson gson = new Gson(); private final Class<T> clazz; private final String url;
    GsonRequest(String url, Class<T> clazz) { this.url = url; this.clazz = clazz; }
    T parse(String json) { return gson.fromJson(json, clazz); }
}
class Queue {
    void add(GsonRequest<?> r) { }
    void fill() {
        add(new GsonRequest<>("v6/ferry", Ferry.class));     // asks Ferry v6/ferry
        GsonRequest<Fare> fare = new GsonRequest<Fare>("v6/fare", Fare.class);     // asks Fare v6/fare
        add(fare);
    }
}
class RxApi {
    private final ObjectMapper mapper = new ObjectMapper();
    Single<Notice> notice() { return Single.fromCallable(() -> mapper.readValue(read("v6/notice"), Notice.class)); }     // asks Notice v6/notice
    Observable<List<Pass>> passes() { return text("v6/passes").map(t -> mapper.readValue(t, new TypeReference<List<Pass>>() {})); }     // asks List<Pass> v6/passes
    CompletableFuture<Pass> pass() { return CompletableFuture.supplyAsync(() -> one("v6/pass", Pass.class)); }     // asks Pass v6/pass
    <T> T one(String path, Class<T> type) { try { return mapper.readValue(read(path), type); } catch (Exception e) { throw new RuntimeException(e); } }
    Observable<String> text(String path) { return null; }
    String read(String path) { return ""; }
}
abstract class Dao<T> {
    protected abstract Class<T> type();
    T find(String id) { return new Gson().fromJson(load(id), type()); }
    String load(String id) { return ""; }
}
class FerryDao extends Dao<Ferry> {     // asks Ferry
    @Override protected Class<Ferry> type() { return Ferry.class; }
}
