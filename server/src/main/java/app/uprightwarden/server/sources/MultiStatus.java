package app.uprightwarden.server.sources;

import java.io.IOException;
import java.io.StringReader;
import java.util.ArrayList;
import java.util.List;
import javax.xml.XMLConstants;
import javax.xml.parsers.DocumentBuilderFactory;
import javax.xml.parsers.ParserConfigurationException;
import org.jspecify.annotations.Nullable;
import org.w3c.dom.Element;
import org.w3c.dom.Node;
import org.xml.sax.InputSource;
import org.xml.sax.SAXException;

/**
 * What a WebDAV server answers about several things at once (RFC 4918 section 13).
 *
 * @param token up to where a collection is known with this (RFC 6578 section 6.4), or null
 */
record MultiStatus(List<Response> responses, @Nullable String token) {
  static final String DAV = "DAV:";
  static final String CALDAV = "urn:ietf:params:xml:ns:caldav";

  private static final int MAX_RESPONSES = 100_000;

  /**
   * About one thing.
   *
   * @param status of the thing as a whole, 200 where only its properties have one
   * @param properties those that the server has found
   */
  record Response(String href, int status, @Nullable Element properties) {
    /** The text of a property, or null where it has none. */
    @Nullable String text(String namespace, String name) {
      Element of = child(properties, namespace, name);
      return of == null ? null : of.getTextContent().strip();
    }

    /** Whether a property has an element somewhere inside it. */
    boolean has(String property, String namespace, String name) {
      Element of = child(properties, DAV, property);
      return of != null && of.getElementsByTagNameNS(namespace, name).getLength() > 0;
    }
  }

  /**
   * Reads an answer.
   *
   * @throws SourceTrouble where it is none
   */
  static MultiStatus read(String xml) throws SourceTrouble {
    Element root = parse(xml);
    if (root == null || !is(root, DAV, "multistatus")) {
      throw new SourceTrouble(
          SourceTrouble.Kind.AWAY, "does not answer as a CalDAV server does (no multistatus)");
    }
    List<Response> responses = new ArrayList<>();
    for (Element each : children(root)) {
      if (is(each, DAV, "response")) {
        responses.add(response(each));
      }
      if (responses.size() > MAX_RESPONSES) {
        throw new SourceTrouble(
            SourceTrouble.Kind.AWAY, "holds more than " + MAX_RESPONSES + " things");
      }
    }
    Element token = child(root, DAV, "sync-token");
    return new MultiStatus(responses, token == null ? null : token.getTextContent().strip());
  }

  /** Whether an error says that a precondition does not hold (RFC 4918 section 16). */
  static boolean isError(String xml, String name) {
    Element root = parse(xml);
    return root != null && is(root, DAV, "error") && child(root, DAV, name) != null;
  }

  private static Response response(Element of) {
    Element href = child(of, DAV, "href");
    Element found = null;
    Element status = child(of, DAV, "status");
    for (Element each : children(of)) {
      if (is(each, DAV, "propstat") && status(child(each, DAV, "status")) == 200) {
        found = child(each, DAV, "prop");
      }
    }
    return new Response(
        href == null ? "" : href.getTextContent().strip(),
        status == null ? 200 : status(status),
        found);
  }

  /** Of "HTTP/1.1 404 Not Found" the number. */
  private static int status(@Nullable Element line) {
    String[] parts = line == null ? new String[0] : line.getTextContent().strip().split(" +", 3);
    return parts.length > 1 && parts[1].matches("[1-5]\\d\\d") ? Integer.parseInt(parts[1]) : 0;
  }

  /** Without document types, so that nothing is expanded and nothing is fetched. */
  private static @Nullable Element parse(String xml) {
    try {
      DocumentBuilderFactory factory = DocumentBuilderFactory.newDefaultNSInstance();
      factory.setFeature("http://apache.org/xml/features/disallow-doctype-decl", true);
      factory.setFeature(XMLConstants.FEATURE_SECURE_PROCESSING, true);
      var builder = factory.newDocumentBuilder();
      builder.setErrorHandler(null);
      return builder.parse(new InputSource(new StringReader(xml))).getDocumentElement();
    } catch (SAXException e) {
      return null;
    } catch (ParserConfigurationException | IOException e) {
      throw new IllegalStateException(e);
    }
  }

  private static boolean is(Element of, String namespace, String name) {
    return namespace.equals(of.getNamespaceURI()) && name.equals(of.getLocalName());
  }

  private static @Nullable Element child(@Nullable Element of, String namespace, String name) {
    return of == null
        ? null
        : children(of).stream().filter(e -> is(e, namespace, name)).findFirst().orElse(null);
  }

  private static List<Element> children(Element of) {
    List<Element> children = new ArrayList<>();
    for (Node each = of.getFirstChild(); each != null; each = each.getNextSibling()) {
      if (each instanceof Element element) {
        children.add(element);
      }
    }
    return children;
  }
}
