package remitto.connect.destination;

/** A destination in which lists can be made from outside. */
@FunctionalInterface
public interface ListMaking {
    /**
     * Makes an empty list.
     *
     * @return its name among the objects
     * @throws DestinationProblem if the tool refuses, or it is not known whether it did it
     */
    String make(String title);
}
