// document: {"stops":[{"code":"A","n":2},{"code":"B"},null],"names":["x",null,""],"modes":["FAST","SLOW"],"fare":12.5,"first":"a","last":"b"}
// document: {"stops":[{"n":1},5],"names":[],"modes":["fast"],"fare":"12","first":null}
// document: {"stops":[],"names":"x","modes":[],"fare":"free","first":"c","last":"d"}
// document: {"names":[{}],"modes":["SLOW",null],"fare":1,"first":"e","last":"f"}
// lost: 3 exactly
import org.json.*;
import java.util.*;

enum Mode { FAST, SLOW }

class Stop {
    final String code; // want missing-key 1/3 in 1
    final int n; // want silent-zero 1/3 in 1
    Stop(JSONObject o) throws JSONException {
        code = o.getString("code");
        n = o.optInt("n");
    }
}

class Root {
    final List<Stop> stops = new ArrayList<>(); // want swallowed-error 1/5 in 1
    final List<String> names = new ArrayList<>(); // want wrong-kind 1/4 in 1
    final List<Mode> modes = new ArrayList<>(); // want unknown-constant 2/5 in 2
    final double pounds; // want wrong-kind 1/4 in 1
    final String label; // want kept-default 1/4 in 1; missing-key 1/4 in 1
    final boolean dear; // want kept-default 1/4 in 1

    Root(JSONObject o) throws JSONException {
        JSONArray a = o.optJSONArray("stops");
        if (a != null) {
            for (int i = 0; i < a.length(); i++) {
                JSONObject s = a.optJSONObject(i);
                if (s != null) stops.add(new Stop(s));
            }
        }
        JSONArray b = o.getJSONArray("names");
        for (int i = 0; i < b.length(); i++) {
            if (b.isNull(i)) continue;
            names.add(b.getString(i).trim());
        }
        JSONArray c = o.getJSONArray("modes");
        for (int i = 0; i < c.length(); i++) modes.add(Mode.valueOf(c.getString(i)));
        pounds = o.getDouble("fare") / 100;
        label = o.getString("first") + " to " + o.getString("last");
        dear = o.optDouble("fare") > 10;
    }
}
