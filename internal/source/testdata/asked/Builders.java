package ferry.saltmere;

import com.google.gson.Gson;
import com.google.gson.reflect.TypeToken;
import java.util.List;
import java.util.concurrent.CompletableFuture;

class Port { public String code; }
class Fare { public double price; }

interface Handler<T> { void handle(T value); }

class Query {
    static final String BASE = "https://api.saltmere.example/";
    private String path;

    static Query to(String path) {
        Query query = new Query();
        query.path = path;
        return query;
    }
    <T> T as(Class<T> type) {
        return new Gson().fromJson(Http.get(path), type);
    }
    <T> List<T> asList(TypeToken<List<T>> type) {
        return new Gson().fromJson(Http.get(path), type.getType());
    }
    <T> CompletableFuture<T> later(Class<T> type) {
        return CompletableFuture.supplyAsync(() -> as(type));
    }
}

class GsonRequest<T> extends Request<T> {
    private final Class<T> type;

    GsonRequest(String url, Class<T> type, Handler<T> handler) {
        super(url);
        this.type = type;
    }
    @Override
    protected Response<T> parse(NetworkResponse response) {
        try {
            String json = new String(response.data);
            return Response.success(new Gson().fromJson(json, type));
        } catch (RuntimeException e) {
            return Response.error(e);
        }
    }
}

class Screen {
    private static final String PORTS = Query.BASE + "v2/ports";

    void show() {
        Port port = Query.to("v2/ports/first").as(Port.class); // asks Port v2/ports/first
        List<Port> ports = Query.to(PORTS).asList(new TypeToken<List<Port>>() {}); // asks List<Port> v2/ports
        Query.to("v2/fares").later(Fare.class).thenAccept(this::show); // asks Fare v2/fares
        queue.add(new GsonRequest<>("v2/fares/best", Fare.class, fare -> show(fare))); // asks Fare v2/fares/best
        if (port != null) {
            show(ports);
        }
    }
}
