@NullMarked
package remitto.demo.history;

import org.jspecify.annotations.NullMarked;
