// document: {"fares":{"adult":12,"child":"6"},"stops":[{"code":"SAL","order":1}]}
// document: {"fares":{"adult":12.5},"stops":[{"code":"MER"}]}
// document: {"fares":{"adult":null},"stops":[]}
// document: {"fares":{},"stops":[{"order":2}]}
// lost: 2
import org.json.*;
import java.util.*;

class Root {
    final Map<String, Integer> fares = new HashMap<>(); // want lost-digits 1/3 in 1; null-value 1/3 in 1
    final List<Stop> stops = new ArrayList<>();

    Root(JSONObject o) throws JSONException {
        JSONObject all = o.getJSONObject("fares");
        Iterator<String> names = all.keys();
        while (names.hasNext()) {
            String name = names.next();
            fares.put(name, all.getInt(name));
        }
        JSONArray list = o.getJSONArray("stops");
        for (int i = 0; i < list.length(); i++) {
            JSONObject stop = list.getJSONObject(i);
            stops.add(new Stop(stop.getString("code"), stop.optInt("order")));
        }
    }

    static Root load(String text) throws JSONException { return new Root(new JSONObject(text)); }
}

class Stop {
    final String code; // want missing-key 1/3 in 1
    final int order; // want silent-zero 1/3 in 1

    Stop(String code, int order) {
        this.code = code;
        this.order = order;
    }
}
