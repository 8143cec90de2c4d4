import com.fasterxml.jackson.databind.*;
import com.google.gson.*;
import java.util.*;

class Port { public String code; }
class Berth { public int no; }
class Pier { public int no; }
class Crane { public int lift; }
class Fog { public int visibility; }
class Delay { public int minutes; }
class Notice { public String text; }
class Fare { public double price; }
class Pass { public String number; }
class Tide { public double height; }
class Vessel { public double knots; }
class Dock { public int no; }
class Quay { public int no; }
class Lock { public int no; }

class Parts {
    private final Gson gson = new Gson();
    private final ObjectMapper mapper = new ObjectMapper();

    List<Port> ports(String json) {
        List<Port> out = new ArrayList<>();
        JsonArray items = JsonParser.parseString(json).getAsJsonObject().getAsJsonArray("items");
        for (JsonElement e : items) {
            out.add(gson.fromJson(e, Port.class)); // asks Port within items.[*]
        }
        return out;
    }

    List<Berth> berths(String json) {
        List<Berth> out = new ArrayList<>();
        JsonArray items = JsonParser.parseString(json).getAsJsonArray();
        for (int i = 0; i < items.size(); i++) {
            if (items.size() > 1) out.add(gson.fromJson(items.get(i), Berth.class)); // asks Berth within [*]
        }
        return out;
    }

    List<Pier> piers(String json) throws Exception {
        List<Pier> out = new ArrayList<>();
        mapper.readTree(json).get("data").get("piers").forEach(n -> out.add(mapper.convertValue(n, Pier.class))); // asks Pier within data.piers.[*]
        return out;
    }

    Crane crane(JsonNode n) throws Exception {
        return mapper.treeToValue(n, Crane.class); // asks Crane of a part
    }

    List<Object> notices(String json) throws Exception {
        List<Object> out = new ArrayList<>();
        for (JsonNode n : mapper.readTree(json).get("notices")) {
            String kind = n.get("kind").asText();
            switch (kind) {
                case "fog":
                    out.add(mapper.treeToValue(n, Fog.class)); // asks Fog within notices.[*] picked
                    break;
                default:
                    out.add(mapper.treeToValue(n, Delay.class)); // asks Delay within notices.[*] picked
            }
        }
        return out;
    }

    Notice first(String json) {
        JsonObject root = JsonParser.parseString(json).getAsJsonObject();
        if (root.get("notice") == null) return null;
        return gson.fromJson(root.get("notice").toString(), Notice.class); // asks Notice within notice
    }

    Fare fare(String json) {
        JsonObject root = JsonParser.parseString(json).getAsJsonObject();
        if (root.get("type").getAsString().equals("fare")) {
            return gson.fromJson(root, Fare.class); // asks Fare picked
        }
        return null;
    }

    Pass pass(String json, int status) {
        if (status != 200) return null;
        JsonObject root = JsonParser.parseString(json).getAsJsonObject();
        return gson.fromJson(root.get("pass"), Pass.class); // asks Pass within pass
    }

    Tide tide(String json) {
        if (json.equals("none")) return null;
        return gson.fromJson(json, Tide.class); // asks Tide
    }

    List<Vessel> vessels(String json) throws Exception {
        List<Vessel> out = new ArrayList<>();
        for (JsonNode n : mapper.readTree(json).get("things")) {
            if (isNull(n)) continue;
            if (isVessel(n)) out.add(mapper.treeToValue(n, Vessel.class)); // asks Vessel within things.[*] picked
        }
        return out;
    }

    List<Dock> docks(String json) throws Exception {
        List<Dock> out = new ArrayList<>();
        for (JsonNode n : mapper.readTree(json).get("docks")) {
            if (isNull(n)) continue;
            out.add(mapper.treeToValue(n, Dock.class)); // asks Dock within docks.[*]
        }
        return out;
    }

    Object quay(JsonNode n) throws Exception {
        return "quay".equals(n.path("kind").asText()) ? mapper.treeToValue(n, Quay.class) : null; // asks Quay picked
    }

    List<Lock> locks(String json) throws Exception {
        List<Lock> out = new ArrayList<>();
        Iterator<JsonNode> rows = mapper.readTree(json).path("locks").elements();
        while (rows.hasNext()) {
            JsonNode n = rows.next();
            out.add(mapper.treeToValue(n, Lock.class)); // asks Lock of a part
        }
        return out;
    }

    private static boolean isVessel(JsonNode n) { return n.has("knots"); }
    private static boolean isNull(JsonNode n) { return n == null || n.isNull(); }
}
