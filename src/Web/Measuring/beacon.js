// Reports page views, events and conversions. No cookies. See docs/measuring.md.
(function () {
  var script = document.currentScript, key = script.dataset.key, door = new URL('/measure', script.src).href, last;

  // Only where the site's owner has asked its visitors: an id kept in the visitor's own browser.
  function visitor() {
    if (!('keepId' in script.dataset)) return;
    try {
      var id = localStorage.getItem('beacon-id');
      if (!id) localStorage.setItem('beacon-id', (id = crypto.randomUUID ? crypto.randomUUID() : Date.now().toString(36) + Math.random().toString(36).slice(2)));
      return id;
    } catch (refused) {}
  }

  function send(report) {
    report.k = key;
    report.u = location.href;
    report.d = visitor();
    var body = JSON.stringify(report);
    if (!(navigator.sendBeacon && navigator.sendBeacon(door, body)))
      fetch(door, { method: 'POST', body: body, keepalive: true, mode: 'no-cors', credentials: 'omit' });
  }

  function view(referrer) {
    var page = location.href.split('#')[0];
    if (page === last) return;
    send({ r: referrer });
    last = page;
  }

  // A page that changes its address without loading anew is a new page view.
  ['pushState', 'replaceState'].forEach(function (name) {
    var plain = history[name];
    history[name] = function () {
      var before = location.href, result = plain.apply(this, arguments);
      view(before);
      return result;
    };
  });
  addEventListener('popstate', function () { view(last); });

  window.beacon = {
    event: function (name) { send({ e: 'event', n: name }); },
    conversion: function (name, data) {
      data = data || {};
      send({ e: 'conversion', n: name, o: data.order, v: data.value, c: data.currency, i: data.items });
    }
  };
  view(document.referrer);
})();
