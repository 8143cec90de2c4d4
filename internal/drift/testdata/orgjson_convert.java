// document: {"kind":"car","decks":"2","price":"12.50","code":" SAL "}
// document: {"kind":"bus","decks":"two","price":3,"code":"MER"}
// document: {"kind":"foot","decks":4,"code":null}
// document: {"kind":"foot","decks":"1.5","price":""}
// lost: 3 exactly
import org.json.*;

class Root {
    Kind kind; // want unknown-constant 1/4 in 1
    int decks; // want unreadable-text 2/4 in 2
    double price = 1; // want missing-key 1/4 in 1; unreadable-text 1/3 in 1
    String code; // want kept-default 1/3 in 1

    Root(JSONObject o) throws JSONException {
        kind = Kind.valueOf(o.getString("kind").toUpperCase());
        decks = Integer.parseInt(o.getString("decks"));
        price = Double.parseDouble(o.getString("price"));
        code = o.optString("code", "none").trim();
    }

    static Root load(String text) throws JSONException { return new Root(new JSONObject(text)); }
}

enum Kind { CAR, FOOT }
