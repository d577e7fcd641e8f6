/** Signing in at a sign-in server of the company (OpenID Connect): accounts made on first use, roles by what it says of a person. */
@NullMarked
package remitto.server.openid;

import org.jspecify.annotations.NullMarked;
