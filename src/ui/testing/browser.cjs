/** What jsdom lacks of a browser, as far as our controls ask for it. */
if (typeof window !== 'undefined') {
  class Observer {
    observe() {}
    unobserve() {}
    disconnect() {}
  }
  window.scrollTo = () => undefined;
  window.CSS ??= { escape: (text) => text.replace(/[^a-zA-Z0-9_-]/g, '\\$&') };
  // A file's text, as browsers have had it for years.
  window.File.prototype.text ??= function text() {
    return new Promise((done) => {
      const reader = new FileReader();
      reader.onload = () => done(String(reader.result));
      reader.readAsText(this);
    });
  };
  window.ResizeObserver ??= Observer;
  window.IntersectionObserver ??= Observer;
  Element.prototype.scrollIntoView ??= () => undefined;
  Element.prototype.hasPointerCapture ??= () => false;
  Element.prototype.setPointerCapture ??= () => undefined;
  Element.prototype.releasePointerCapture ??= () => undefined;
  window.structuredClone ??= (value) => JSON.parse(JSON.stringify(value));
  window.matchMedia ??= () => ({ matches: false, addEventListener() {}, removeEventListener() {} });
}
