@NullMarked
package remitto.standins.page;

import org.jspecify.annotations.NullMarked;
