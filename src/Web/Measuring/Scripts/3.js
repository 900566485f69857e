// Reports page views, events, orders, and spots seen and clicked. Sets no cookie, waits for nothing, and never breaks the page. See docs/measuring.md.
(function () {
  var script, key, door, last, came, fields, eyes, timers, seen;

  // Whatever goes wrong in here is this script's alone.
  function quietly(action) {
    return function () {
      try {
        return action.apply(this, arguments);
      } catch (failed) {}
    };
  }

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
      fetch(door, { method: 'POST', body: body, keepalive: true, mode: 'no-cors', credentials: 'omit' }).catch(function () {});
  }

  var view = quietly(function (referrer) {
    var page = location.href.split('#')[0];
    if (page === last) return;
    send({ r: referrer });
    last = page;
    look();
  });

  // Spots of the page: seen is half of one in view for a second, once for each page view.
  var spot = '[data-beacon-spot]';

  function look() {
    if (!eyes) return;
    eyes.disconnect();
    timers.forEach(clearTimeout);
    timers = new Map();
    seen = {};
    document.querySelectorAll(spot).forEach(function (element) { eyes.observe(element); });
  }

  var notice = quietly(function (entries) {
    entries.forEach(function (entry) {
      var element = entry.target, name = element.dataset.beaconSpot;
      clearTimeout(timers.get(element));
      if (entry.intersectionRatio >= 0.5 && name && !seen[name])
        timers.set(element, setTimeout(quietly(function () {
          if (seen[name]) return;
          seen[name] = true;
          send({ e: 'seen', n: name });
        }), 1000));
    });
  });

  function watch() {
    if (!window.IntersectionObserver) return;
    eyes = new IntersectionObserver(notice, { threshold: 0.5 });
    timers = new Map();
    look();
    // What a page adds later is looked at too.
    new MutationObserver(quietly(function (changes) {
      changes.forEach(function (change) {
        change.addedNodes.forEach(function (node) {
          if (!node.querySelectorAll) return;
          if (node.matches(spot)) eyes.observe(node);
          node.querySelectorAll(spot).forEach(function (element) { eyes.observe(element); });
        });
      });
    })).observe(document.documentElement, { childList: true, subtree: true });
  }

  // Where the visitor came from, as the page's own address says it; only fields the site's owner has picked.
  function read(keys) {
    var found = {}, url = new URL(came), keep = 'keepSource' in script.dataset;
    [url.search, url.hash].forEach(function (part) {
      new URLSearchParams(part.slice(1)).forEach(function (value, name) {
        Object.keys(keys).forEach(function (field) {
          if (value && !(field in found) && keys[field].indexOf(name.toLowerCase()) >= 0) found[field] = value;
        });
      });
    });
    if (!keep) return found;
    try {
      if (Object.keys(found).length) localStorage.setItem('beacon-source', JSON.stringify(found));
      else {
        var kept = JSON.parse(localStorage.getItem('beacon-source')) || {};
        Object.keys(keys).forEach(function (field) { if (field in kept) found[field] = kept[field]; });
      }
    } catch (refused) {}
    return found;
  }

  function source() {
    return Promise.resolve().then(function () {
      return fields || (fields = fetch(door + '/fields?k=' + encodeURIComponent(key), { credentials: 'omit' }).then(function (answer) { return answer.json(); }));
    }).then(read).catch(function () { fields = null; return {}; });
  }

  function convert(name, data) {
    data = data || {};
    send({ e: 'conversion', n: name, o: data.order, v: data.value, c: data.currency, i: data.items });
  }

  quietly(function () {
    script = document.currentScript || document.querySelector('script[data-key][src*="/beacon"]');
    key = script.dataset.key;
    door = new URL('/measure', script.src).href;
    came = location.href;

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
      event: quietly(function (name, data) {
        data = data || {};
        send({ e: 'event', n: name, v: data.value, c: data.currency });
      }),
      conversion: quietly(convert),
      order: quietly(function (data) {
        convert(data.kind || 'order', { order: data.id, value: data.value, currency: data.currency, items: data.items });
      }),
      source: source
    };
    view(document.referrer);
    // Before the page's own handlers, which may keep a click for themselves.
    addEventListener('click', quietly(function (click) {
      var element = click.target.closest && click.target.closest(spot);
      if (element && element.dataset.beaconSpot) send({ e: 'clicked', n: element.dataset.beaconSpot });
    }), true);
    quietly(watch)();
    if ('keepSource' in script.dataset && (location.search || location.hash)) source();

    // What the page says as data, so that it need not wait for this script:
    // <script type="application/json" data-beacon="order">{"id": "A-1001", …}</script>
    var said = quietly(function () {
      document.querySelectorAll('script[type="application/json"][data-beacon]').forEach(
        quietly(function (block) {
          var data = JSON.parse(block.textContent);
          if (block.dataset.beacon === 'order') window.beacon.order(data);
          if (block.dataset.beacon === 'event') window.beacon.event(data.name, data);
        })
      );
    });
    if (document.readyState === 'loading') addEventListener('DOMContentLoaded', said);
    else said();
  })();
})();
