// document: {"port_code":"SAL","imageURL":"u","departs":"2026-03-01","arrives":1772323200,"secret":"x","seatsLeft":3,"Deck":"car"}
// document: {"portCode":"MUL","image_u_r_l":"v","departs":"01.03.2026","arrives":null,"seats_left":4,"deck":"main"}
// lost: 1 exactly
import com.google.gson.FieldNamingPolicy;
import com.google.gson.Gson;
import com.google.gson.GsonBuilder;
import com.google.gson.annotations.Expose;
import com.google.gson.annotations.SerializedName;
import java.util.Date;

class Root {
    String portCode; // want renamed-optional 1/2 in 1 as portCode
    String imageURL; // want renamed-optional 1/2 in 1 as imageURL
    Date departs; // want unreadable-date 1/2 in 1
    Long arrives;
    @SerializedName("seatsLeft") int seatsLeft; // want renamed-optional 1/2 in 1 as seats_left
    transient String secret; // want never-read 1/1 in 1
    String deck; // want renamed-optional 1/2 in 1 as Deck
    static final String NONE = "none";

    private static final Gson GSON = new GsonBuilder()
        .setFieldNamingPolicy(FieldNamingPolicy.LOWER_CASE_WITH_UNDERSCORES)
        .setDateFormat("yyyy-MM-dd")
        .create();
    static Root load(String text) { return GSON.fromJson(text, Root.class); }
}
