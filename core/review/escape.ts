/**
 * Text that HTML and SVG may hold: no markup, and no characters that XML forbids.
 *
 * @source W3C, XML 1.0, "Char"
 */
export const escapeXml = (text: string): string =>
  text
    .replace(
      /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g,
      '\ufffd',
    )
    .replaceAll('&', '&amp;')
    .replaceAll('<', '&lt;')
    .replaceAll('>', '&gt;')
    .replaceAll('"', '&quot;');
