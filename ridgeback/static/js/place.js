// A form that leads back to its own page leaves the reader where the button was pressed, unless the page has something to tell.
(() => {
  const KEY = "ridgeback-place";
  const here = () => window.location.pathname; // the way back may say the day that the first address left out

  document.addEventListener("submit", (event) => {
    if (event.defaultPrevented || event.target.method !== "post") return;
    window.sessionStorage.setItem(KEY, JSON.stringify({ page: here(), down: window.scrollY }));
  });

  const kept = JSON.parse(window.sessionStorage.getItem(KEY) || "{}");
  window.sessionStorage.removeItem(KEY);
  if (kept.page === here() && !window.location.hash && !document.querySelector("[role=alert]:not([hidden])")) window.scrollTo(0, kept.down);
})();
