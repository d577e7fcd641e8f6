@NullMarked
package remitto.standins.gangway;

import org.jspecify.annotations.NullMarked;
