/** Programs that call the API: service accounts, their tokens with scopes, and what each operation needs. */
@NullMarked
package remitto.server.token;

import org.jspecify.annotations.NullMarked;
