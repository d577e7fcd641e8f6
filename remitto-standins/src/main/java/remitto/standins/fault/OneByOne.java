package remitto.standins.fault;

import tools.jackson.databind.JsonNode;
import tools.jackson.databind.ObjectMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/**
 * Takes the entries of a call one by one and tells what came of each.
 *
 * @param told name of the list of answers
 * @param place name of an entry's number in its answer
 * @param most entries of one call
 * @param word name under which an entry is told of
 */
public record OneByOne(String told, String place, int most, String word) {
    /** What becomes of one entry; it is told in the answer. */
    public interface Entry {
        void take(JsonNode entry, ObjectNode answer);
    }

    /**
     * Names the lines of a call by what they are.
     *
     * @param list name of its list of entries
     */
    public Gate.Lines lines(String list) {
        return body -> body.path(list).valueStream().map(JsonNode::toString).toList();
    }

    /**
     * @param through whose fault of a partial failure lets every other entry be refused
     * @throws Gate.Refusal if there are more than it takes
     */
    public ObjectNode answer(ObjectMapper json, JsonNode entries, Gate.Through through, Entry taken, Entry refused) {
        if (entries.size() > most) {
            throw new Gate.Refusal(413, "at most " + most + " at a time");
        }
        ObjectNode answer = json.createObjectNode();
        ArrayNode list = answer.putArray(told);
        int at = 0;
        for (JsonNode entry : entries) {
            ObjectNode one = list.addObject().put(place, at);
            (through.partial() && at % 2 == 1 ? refused : taken).take(entry, one);
            through.told().add(one.path(word).asString(""));
            at++;
        }
        return answer;
    }
}
