// document: {"kind":"car","at":"2026-03-01","note":"n","extra":1}
// document: {"kind":"bus","note":"n"}
// lost: 0
import org.json.*;

// Of what is not followed nothing is claimed, and not that the keys it names are never read.
class Root { // want unread-keys extra
    static final String AT = "at";
    Kind kind;
    Object at;
    String note;

    Root(JSONObject o) throws JSONException {
        kind = Kinds.find(o.getString("kind"));
        at = Clock.parse(o.opt(AT));
        note = o.getString("note");
    }

    static Root load(String text) throws JSONException { return new Root(new JSONObject(text)); }
}

enum Kind { CAR, FOOT }
