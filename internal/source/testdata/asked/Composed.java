package saltmere;

import com.google.gson.Gson;
import com.google.gson.reflect.TypeToken;
import java.lang.reflect.Type;
import java.util.List;
import java.util.Map;
import okhttp3.OkHttpClient;
import okhttp3.Request;

class Notice { String title; }
class Page<T> { List<T> items; }

class Http {
    private final Gson gson = new Gson();
    private final OkHttpClient client = new OkHttpClient();

    <T> T get(String path, Type type) throws Exception {
        Request request = new Request.Builder().url("https://api.saltmere.example/v2/" + path).build();
        return gson.fromJson(client.newCall(request).execute().body().string(), type);
    }
}

class Board {
    private final Http http = new Http();

    Page<Notice> page() throws Exception { return http.get("/pages", TypeToken.getParameterized(Page.class, Notice.class).getType()); } // asks Page<Notice> v2/pages
    List<Notice> all() throws Exception { return http.get("/notices", TypeToken.getParameterized(List.class, Notice.class).getType()); } // asks List<Notice> v2/notices
    Map<String, Page<Notice>> by() throws Exception { return http.get("/by", TypeToken.getParameterized(Map.class, String.class, TypeToken.getParameterized(Page.class, Notice.class).getType()).getType()); } // asks Map<String, Page<Notice>> v2/by
}
