/** Places that other people leave files in: listed, read, and archived or deleted after reading. */
@NullMarked
package remitto.connect.filedrop;

import org.jspecify.annotations.NullMarked;
