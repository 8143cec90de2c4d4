// document: {"id":1}
// document: {}
// lost: 2 exactly
import com.google.gson.Gson;

class Boat {
    int id;
}
class Root extends Boat { // want undecodable-type 2/2 in 2
    int id;
    Root load(String json) { return new Gson().fromJson(json, Root.class); }
}
