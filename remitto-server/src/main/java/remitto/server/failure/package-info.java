/** What a request that fails is answered with: problem documents (RFC 9457) with a stable code, in words that help. */
@NullMarked
package remitto.server.failure;

import org.jspecify.annotations.NullMarked;
