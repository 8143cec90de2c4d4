/*
 * Saltmere Ferries, the harbour board.
 *
 * Line NNN: what the board knows of its sailings, and what it shows of them.
 */
package ferry.saltmere.lineNNN;

import com.google.gson.Gson;
import com.google.gson.GsonBuilder;
import com.google.gson.annotations.SerializedName;
import com.google.gson.reflect.TypeToken;
import ferry.saltmere.core.Clock;
import ferry.saltmere.core.Money;
import ferry.saltmere.core.Reporter;
import java.io.IOException;
import java.net.HttpURLConnection;
import java.net.URL;
import java.util.*;
import java.util.concurrent.ExecutorService;
import java.util.function.Consumer;
import java.util.stream.Collectors;

/** Shows the sailings of a day, and books seats on them. */
public class BoardNNN {
    private static final String ROOT = "https://api.saltmere.test/v2/lines/NNN";
    private final Gson gson = new GsonBuilder().setDateFormat("yyyy-MM-dd'T'HH:mm:ss'Z'").create();
    private final ExecutorService workers;
    private final Clock clock;
    private final Reporter reporter;
    private List<RowNNN> rows = new ArrayList<>();
    private int page = 1;

    public BoardNNN(ExecutorService workers, Clock clock, Reporter reporter) {
        this.workers = Objects.requireNonNull(workers);
        this.clock = clock;
        this.reporter = reporter;
    }

    /**
     * Loads the sailings of a day.
     *
     * @param day the day, as 2026-03-01
     * @param shown is given the rows, on the worker's thread
     */
    public void load(final String day, final Consumer<List<RowNNN>> shown) {
        workers.submit(() -> {
            try {
                String text = get(ROOT + "/sailings?day=" + day + "&page=" + page);
                List<SailingNNN> found = gson.fromJson(text, new TypeToken<List<SailingNNN>>() {}.getType());
                for (SailingNNN s : found) {
                    if (s.status != SailingNNN.Status.CANCELLED) {
                        rows.add(row(s, day));
                    }
                }
                shown.accept(Collections.unmodifiableList(rows));
            } catch (IOException e) { // the sea is wide, and its network thin
                reporter.report("sailings of line NNN", e);
            }
        });
    }

    private RowNNN row(SailingNNN s, String day) {
        int left = s.seatsLeft == null ? 0 : s.seatsLeft;
        String detail;
        if (s.isFull()) {
            detail = "full";
        } else if (left > 0 && left < 10) {
            detail = String.format(Locale.UK, "%d seats left", left);
        } else {
            detail = "from " + Money.pounds(s.cheapest());
        }
        return new RowNNN(s.label(day), detail, s.status == SailingNNN.Status.DELAYED ? 0xffaa00 : 0x008800, !s.isFull());
    }

    private String get(String address) throws IOException {
        HttpURLConnection connection = (HttpURLConnection) new URL(address).openConnection();
        connection.setRequestProperty("Accept", "application/json");
        try (Scanner scanner = new Scanner(connection.getInputStream(), "UTF-8").useDelimiter("\\A")) {
            return scanner.hasNext() ? scanner.next() : "";
        } finally {
            connection.disconnect();
        }
    }

    public Map<String, List<RowNNN>> byTitle() {
        return rows.stream().filter(RowNNN::isEnabled).collect(Collectors.groupingBy(r -> r.title));
    }
}

class RowNNN {
    final String title, detail;
    final int colour;
    private final boolean enabled;

    RowNNN(String title, String detail, int colour, boolean enabled) {
        this.title = title;
        this.detail = detail;
        this.colour = colour;
        this.enabled = enabled;
    }

    boolean isEnabled() { return enabled; }

    @Override public int hashCode() { return Objects.hash(title, detail, colour, enabled); }
}

/** A sailing of line NNN, as GET /v2/lines/NNN/sailings answers it. */
class SailingNNN {
    enum Status { @SerializedName("on_time") ON_TIME, @SerializedName("delayed") DELAYED, CANCELLED }

    private final int id = 0;
    private String from, to;
    @SerializedName(value = "departs_at", alternate = {"departure_time"})
    private Date departsAt;
    private Vessel vessel;
    Status status;
    @SerializedName("seats_left") Integer seatsLeft;
    private double price = 12.5;
    private List<Notice> notices = new ArrayList<>();
    private Map<String, Double> fares;

    public static class Vessel { String name; double knots; }
    static class Notice { String text; Integer severity; }

    public SailingNNN() { }
    public int getId() { return id; }
    public String getFrom() { return from; }
    /** "int ghost;" is no field. */
    public boolean isFull() { return seatsLeft != null && seatsLeft == 0 && !notices.isEmpty(); }
    public String label(final String day) { for (int i = 0; i < 3; i++) { if (day == null) return ""; } return from + " to " + to + ", " + day; }
    public double cheapest() { return fares == null ? price : fares.values().stream().min(Double::compare).orElse(price); }
}
