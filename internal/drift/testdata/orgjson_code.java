// document: {"code":"SAL","berths":[{"n":1,"depth":4.5},{"n":"2","depth":"6"}],"harbour":{"name":"Mull","since":"1998"},"open":1,"tags":["a"]}
// document: {"code":7,"berths":[{"n":3}],"harbour":null,"tags":{}}
// document: {"code":null,"berths":[],"open":"true","tags":["b",null]}
// lost: 0 exactly
import java.util.ArrayList;
import java.util.List;
import org.json.JSONArray;
import org.json.JSONException;
import org.json.JSONObject;

class Berth {
    private int n;
    private double depth;

    static Berth from(JSONObject json) throws JSONException {
        Berth b = new Berth();
        b.n = json.getInt("n");
        b.depth = json.optDouble("depth", 3.0);
        return b;
    }
}

class Root { // want swallowed-error 1/3 in 1
    String code; // want kept-default 1/3 in 1
    final List<Berth> berths = new ArrayList<>();
    final List<String> tags = new ArrayList<>(); // want kept-default 1/3 in 1
    String harbour;
    int since;
    boolean open; // want kept-default 1/2 in 1; silent-zero 1/3 in 1
    String motto = "none";

    Root(JSONObject json) throws JSONException {
        code = json.getString("code");
        JSONArray list = json.getJSONArray("berths");
        for (int i = 0; i < list.length(); i++) {
            berths.add(Berth.from(list.getJSONObject(i)));
        }
        if (json.has("harbour") && !json.isNull("harbour")) {
            JSONObject h = json.getJSONObject("harbour");
            harbour = h.getString("name");
            since = h.getInt("since");
        }
        open = json.optBoolean("open");
        JSONArray t = json.optJSONArray("tags");
        if (t != null) {
            for (int i = 0; i < t.length(); i++) {
                tags.add(t.getString(i));
            }
        }
    }

    static Root load(String text) throws JSONException { return new Root(new JSONObject(text)); }
}
