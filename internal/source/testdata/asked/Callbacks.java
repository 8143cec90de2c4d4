package ferry.saltmere;

import com.google.gson.Gson;
import com.google.gson.reflect.TypeToken;
import java.io.IOException;
import java.lang.reflect.Type;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;

class Port { public String code; }
class Fare { public double price; }
class Notice { public String text; }

interface ApiCallback<T> {
    void onSuccess(T value);
    void onError(Exception error);
}

abstract class ApiRequest<T> {
    abstract String path();
    abstract Type type();

    T run(Gson gson) throws IOException {
        return gson.fromJson(Http.get(path()), type()); // asks lost: no call of run was found that says what it decodes
    }
}

class Client {
    private static final String BASE = "https://api.saltmere.example/";
    private final Gson gson = new Gson();

    void ports(final ApiCallback<List<Port>> callback) {
        enqueue("v2/ports", new TypeToken<List<Port>>() {}.getType(), callback); // asks List<Port> v2/ports
    }

    void fares(Consumer<List<Fare>> shown) {
        enqueue("v2/fares", TypeToken.getParameterized(List.class, Fare.class).getType(), new ApiCallback<List<Fare>>() { // asks List<Fare> v2/fares
            @Override
            public void onSuccess(List<Fare> fares) {
                shown.accept(fares);
            }
            @Override
            public void onError(Exception error) {
                error.printStackTrace();
            }
        });
    }

    Optional<Notice> notice(int id) {
        try {
            return Optional.ofNullable(fetch("v2/notices/" + id, Notice.class)); // asks Notice v2/notices/{}
        } catch (IOException e) {
            return Optional.empty();
        }
    }

    // Of a class alone, whatever it is cast to: at run time its elements are maps.
    List<Port> raw() throws IOException {
        return fetch("v2/ports/raw", (Class<List<Port>>) (Class<?>) List.class);
    }

    private <T> T fetch(String path, Class<T> type) throws IOException {
        try (Reader reader = Http.open(BASE + path)) {
            return gson.fromJson(reader, type);
        }
    }

    private <T> void enqueue(String path, Type type, ApiCallback<T> callback) {
        Http.call(BASE + path).enqueue(new Callback() {
            @Override
            public void onResponse(Call call, Response response) throws IOException {
                T value = gson.fromJson(response.body().charStream(), type);
                callback.onSuccess(value);
            }
            @Override
            public void onFailure(Call call, IOException e) {
                callback.onError(e);
            }
        });
    }
}
