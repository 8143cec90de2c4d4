// document: {"count":1,"rate":"EUR","place":"en_GB","text":"a","any":{"a":1},"late":5,"kept":9}
// document: {"count":1.5,"rate":"euro","place":"","any":12}
// document: {"count":"3","rate":null,"text":null,"late":6}
// lost: 2 exactly
import com.google.gson.*;
import java.util.*;
import java.util.concurrent.atomic.AtomicInteger;

public class Root {
    AtomicInteger count; // want out-of-range 1/3 in 1
    Currency rate; // want unreadable-text 1/3 in 1
    Locale place; // want unreadable-text 1/2 in 1
    CharSequence text; // want undecodable-type 1/2 in 1
    Object any;
    transient int late = 4; // want never-read 2/2 in 2
    private final String kept = "k"; // want never-read 1/1 in 1
    static final Gson GSON = new GsonBuilder().excludeFieldsWithModifiers(java.lang.reflect.Modifier.TRANSIENT, java.lang.reflect.Modifier.FINAL).create();
    static Root load(String json) { return GSON.fromJson(json, Root.class); }
}
