/** The ticket shop of Halvorn Ferries: it calls whoever wants to know when something happens there. */
@NullMarked
package remitto.standins.ticketshop;

import org.jspecify.annotations.NullMarked;
