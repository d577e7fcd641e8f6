@NullMarked
package remitto.core.manifest;

import org.jspecify.annotations.NullMarked;
