package remitto.server.secret;

/** Whether anything is kept that was sealed before. */
@FunctionalInterface
interface SealedThings {
    boolean any();
}
