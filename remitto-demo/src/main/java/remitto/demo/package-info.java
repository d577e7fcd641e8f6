@NullMarked
package remitto.demo;

import org.jspecify.annotations.NullMarked;
