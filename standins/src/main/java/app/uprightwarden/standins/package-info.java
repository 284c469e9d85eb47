/**
 * Two conference services that do not exist, to link, to try and to test with. Each is a process of
 * its own that keeps what it holds in a file, and speaks version 2 of the interface that the guide
 * describes.
 */
@NullMarked
package app.uprightwarden.standins;

import org.jspecify.annotations.NullMarked;
