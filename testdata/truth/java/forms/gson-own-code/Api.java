import com.google.gson.*;

class Api {
  final Gson gson = new GsonBuilder().registerTypeAdapter(Kind.class, new KindReader()).registerTypeAdapter(Place.class, new PlaceReader()).create();
  Berth load(String text) { return gson.fromJson(text, Berth.class); }
}
