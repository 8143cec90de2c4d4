// document: {"id":7,"kind":"c","stops":[{"code":" SAL ","at":"4"},{"code":"MER"}]}
// document: {"id":"x","kind":"f","stops":[]}
// document: {"kind":"q","stops":[{"code":null,"at":"4"}]}
// document: {"id":9,"kind":"f","stops":[{"at":"soon"}]}
// lost: 3
import org.json.*;
import java.util.*;

class Root extends Record {
    Kind kind;
    List<Stop> stops = new ArrayList<>();

    Root(JSONObject o) throws JSONException {
        super(o);
        kind = Kind.of(o.getString("kind"));
        JSONArray a = o.getJSONArray("stops");
        for (int i = 0; i < a.length(); i++) {
            JSONObject s = a.getJSONObject(i);
            stops.add(new Stop(s.getString("code").trim(), Integer.parseInt(s.optString("at", "0"))));
        }
    }

    static Root load(String text) throws JSONException { return new Root(new JSONObject(text)); }
}

class Record {
    final int id; // want missing-key 1/4 in 1; wrong-kind 1/3 in 1

    Record(JSONObject o) throws JSONException { id = o.getInt("id"); }
}

class Stop {
    final String code; // want kept-default 1/3 in 1; missing-key 1/4 in 1
    final int at; // want unreadable-text 1/3 in 1

    Stop(String code, int at) {
        this.code = code;
        this.at = at;
    }
}

enum Kind {
    CAR("c"), FOOT("f");

    final String code;

    Kind(String code) { this.code = code; }

    static Kind of(String code) {
        for (Kind k : values()) {
            if (k.code.equals(code)) return k;
        }
        throw new IllegalArgumentException("no kind " + code);
    }
}
