package saltmere;
import com.google.gson.Gson;
import com.google.gson.reflect.TypeToken;
import java.lang.reflect.ParameterizedType;
import java.lang.reflect.Type;
import java.util.List;
import java.util.function.Function;

class Pier { public String code; }
class Ferry { public String name; }
class Fare { public int pence; }

// what a class asks for is said by those that extend it
abstract class Task<T> {
    abstract String path();
    protected Type type() { return ((ParameterizedType) getClass().getGenericSuperclass()).getActualTypeArguments()[0]; }
    T run(Function<String, String> http) { return new Gson().fromJson(http.apply(path()), type()); }
}
class FerryTask extends Task<Ferry> { // asks Ferry v13/ferry
    String path() { return "v13/ferry"; }
}
class FaresTask extends Task<List<Fare>> { // asks List<Fare> v13/fares
    @Override String path() { return "v13/fares"; }
}
abstract class Named<T> {
    abstract String getUrl();
    abstract Class<T> kind();
    T run(Function<String, String> http) { return new Gson().fromJson(http.apply("https://api.saltmere.example/" + this.getUrl()), kind()); }
}
class PierTask extends Named<Pier> { // asks Pier v13/pier
    String getUrl() { return "v13/pier"; }
    Class<Pier> kind() { return Pier.class; }
}
