package ferry.saltmere;

import com.google.gson.FieldNamingPolicy;
import com.google.gson.Gson;
import com.google.gson.GsonBuilder;

class Port { public String portCode; }
class Fare { public double price; }
class Pass { public String holder; }

class Decoders {
    static final Gson SNAKE = new GsonBuilder().setFieldNamingPolicy(FieldNamingPolicy.LOWER_CASE_WITH_UNDERSCORES).create();
    static final Gson DASHED = new GsonBuilder().setFieldNamingPolicy(FieldNamingPolicy.LOWER_CASE_WITH_DASHES).create();
}

class Client {
    private final Gson gson;

    Client(Gson gson) {
        this.gson = gson;
    }
    <T> T get(String path, Class<T> type) {
        return gson.fromJson(Http.get(path), type);
    }
}

class Screen {
    private final Client client = new Client(Decoders.DASHED);

    void show() {
        show(client.get("v2/ports/first", Port.class)); // asks Port v2/ports/first by naming LOWER_CASE_WITH_DASHES
        show(new Client(Decoders.SNAKE).get("v2/fares/best", Fare.class)); // asks Fare v2/fares/best by naming LOWER_CASE_WITH_UNDERSCORES
        show(read("v2/passes/mine", Pass.class, Decoders.SNAKE)); // asks Pass v2/passes/mine by naming LOWER_CASE_WITH_UNDERSCORES
    }
    private static <T> T read(String path, Class<T> type, Gson with) {
        return with.fromJson(Http.get(path), type);
    }
}
