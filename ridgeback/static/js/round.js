// The round on a phone: every press is kept on it first and sent as soon as there is a network; each row says what became of it.
(() => {
  const page = document.getElementById("round");
  if (!page) return;
  const { createStore, get, update } = window.idbKeyval;
  const store = createStore("ridgeback-round", "entries");
  const mine = `keeper-${page.dataset.keeper}`;
  const waiting = document.getElementById("waiting");
  const rows = new Map();
  const words = page.dataset;
  let sending = false;

  const list = async () => (await get(mine, store)) || [];
  const change = (how) => update(mine, (old) => how(old || []), store);
  const token = () => JSON.parse(document.body.getAttribute("hx-headers"))["X-CSRFToken"];

  const tell = (row, text, state) => {
    if (!row) return;
    row.classList.remove("waits", "went", "failed", "settled");
    row.classList.add(state);
    row.querySelector(".sent").textContent = text;
  };

  // Where an entry stands on the page, also after it was loaded again.
  const rowOf = (entry) => {
    if (rows.has(entry.key)) return rows.get(entry.key);
    const part = { weigh: `[data-what=weigh][data-animal="${entry.animal}"]`, note: `[data-what=note][data-habitat="${entry.habitat}"]` }[entry.what];
    const turn = [...page.querySelectorAll(`.turn[data-habitat="${entry.habitat}"]`)].find((one) => one.dataset.job === (entry.job || "feed") && one.dataset.due === entry.due);
    return part ? page.querySelector(part) : turn;
  };

  const show = async () => {
    const left = await list();
    waiting.hidden = left.length === 0;
    waiting.textContent = left.length === 1 ? words.waitingOne : words.waitingMany.replace("{n}", left.length);
    for (const entry of left) {
      const row = rowOf(entry);
      tell(row, entry.failed ? `${words.refused} ${entry.asked}` : entry.asked || words.kept, entry.failed ? "failed" : "waits");
      if (row && entry.asked && !row.querySelector(".answer")) answers(row, entry);
    }
  };

  const press = (text, done) => {
    const button = document.createElement("button");
    button.type = "button";
    button.className = "btn btn-sm btn-outline-primary";
    button.textContent = text;
    button.addEventListener("click", done);
    return button;
  };

  // What the keeper can do with an entry that was doubted or refused.
  const answers = (row, entry) => {
    const span = document.createElement("span");
    span.className = "answer";
    const done = async (how) => {
      span.remove();
      tell(row, "", "settled");
      await change(how);
      send();
    };
    if (!entry.failed) {
      const fresh = crypto.randomUUID();
      rows.set(fresh, row);
      span.append(press(words.asks, () => done((old) => window.roundQueue.sure(old, entry.key, fresh))), " ");
    }
    span.append(press(words.forget, () => done((old) => window.roundQueue.without(old, entry.key))));
    row.append(span);
  };

  const send = async () => {
    if (sending) return;
    sending = true;
    try {
      for (;;) {
        const entries = window.roundQueue.batch(await list());
        if (!entries.length) break;
        const headers = { "Content-Type": "application/json", "X-CSRFToken": token() };
        const answer = await fetch(words.send, { method: "POST", headers, body: JSON.stringify({ entries }), redirect: "manual" });
        if (answer.type === "opaqueredirect" || answer.status === 401 || answer.status === 403) {
          waiting.hidden = false;
          waiting.textContent = words.signedOut;
          return;
        }
        if (!answer.ok) break;
        const { answers: told, at } = await answer.json();
        for (const one of told) {
          const entry = entries.find((each) => each.key === one.key);
          const row = rowOf(entry);
          if (one.state === "written" || one.state === "already") tell(row, `${words[one.state]}, ${at}`, "went");
        }
        await change((old) => window.roundQueue.after(old, told));
      }
    } catch {
      // No network: what waits is sent with the next occasion.
    } finally {
      sending = false;
      await show();
    }
  };

  const write = async (row, what, fields) => {
    const entry = window.roundQueue.made(what, fields, new Date(), crypto.randomUUID());
    rows.set(entry.key, row);
    await change((old) => window.roundQueue.added(old, entry));
    tell(row, words.kept, "waits");
    send();
  };

  page.addEventListener("click", (event) => {
    const button = event.target.closest("button[data-outcome]");
    if (!button) return;
    const row = button.closest(".turn");
    // A button that is switched off loses the keyboard: it stays in this row, and Tab goes on from here.
    if (button === document.activeElement) {
      row.tabIndex = -1;
      row.focus({ preventScroll: true });
    }
    row.querySelectorAll("button[data-outcome]").forEach((one) => (one.disabled = true));
    const { habitat, job, due, what } = row.dataset;
    const fields = { habitat: Number(habitat), due, outcome: button.dataset.outcome };
    write(row, what, what === "feed" ? fields : { ...fields, job });
  });

  page.addEventListener("submit", (event) => {
    const form = event.target.closest("form[data-what]");
    if (!form) return;
    event.preventDefault();
    const value = form.elements.value.value.trim();
    if (!value) return;
    const { what, habitat, animal } = form.dataset;
    form.reset();
    write(form, what, what === "weigh" ? { animal: Number(animal), value } : { habitat: Number(habitat), value });
  });

  // An older round than today's, out of what was kept.
  const now = new Date();
  const local = `${now.getFullYear()}-${String(now.getMonth() + 1).padStart(2, "0")}-${String(now.getDate()).padStart(2, "0")}`;
  if (words.day < local) {
    const old = document.createElement("p");
    old.className = "note-line";
    old.textContent = words.old.replace("{day}", words.day);
    waiting.after(old);
  }

  // The first visit was answered before anything could be kept: it is kept now.
  const keep = async () => {
    await navigator.serviceWorker.register(words.worker, { scope: "/" });
    await navigator.serviceWorker.ready;
    // Also where the worker took the page over before this line: it answered none of it.
    if (!(await caches.match(location.pathname, { ignoreVary: true }))) await (await caches.open("ridgeback-round")).add(location.pathname);
  };
  if ("serviceWorker" in navigator) keep().catch(() => {});
  addEventListener("online", send);
  document.addEventListener("visibilitychange", () => document.visibilityState === "visible" && send());
  setInterval(send, 20_000);
  show().then(send);
})();
