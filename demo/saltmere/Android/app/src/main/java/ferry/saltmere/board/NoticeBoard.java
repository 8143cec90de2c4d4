package ferry.saltmere.board;

import com.fasterxml.jackson.annotation.JsonProperty;

import java.util.Date;
import java.util.List;
import java.util.UUID;

/** The notice board of the day: the oldest part of the app. */
public class NoticeBoard {
    private List<Notice> notices;
    private Date updated;

    public List<Notice> getNotices() { return notices; }
    public void setNotices(List<Notice> notices) { this.notices = notices; }
    public Date getUpdated() { return updated; }
    public void setUpdated(Date updated) { this.updated = updated; }

    public static class Notice {
        @JsonProperty private UUID id;
        @JsonProperty private String title;
        @JsonProperty private String body;
        @JsonProperty private Date published;

        public String getTitle() { return title; }
        public Date getPublished() { return published; }
    }
}
