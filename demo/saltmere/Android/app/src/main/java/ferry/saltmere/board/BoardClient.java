package ferry.saltmere.board;

import com.fasterxml.jackson.core.type.TypeReference;
import com.fasterxml.jackson.databind.ObjectMapper;

import java.io.IOException;
import java.util.List;

/** Reads what the board on the quay shows. */
final class BoardClient {
    private final ObjectMapper mapper = new ObjectMapper();

    NoticeBoard notices(byte[] body) throws IOException {
        return mapper.readValue(body, NoticeBoard.class);
    }

    List<Vessel> vessels(byte[] body) throws IOException {
        return mapper.readValue(body, new TypeReference<List<Vessel>>() {});
    }
}
