/* A long file is sent in parts before its form is: what has arrived is not sent again after a break. */
"use strict";

(() => {
  const SMALL = 4e6; // goes with its form
  const PART = 8e6;
  const MEGABYTE = 1e6;
  const PAUSES = [0, 1000, 3000, 10000, 30000];

  function send(form, file) {
    const box = form.querySelector(".sending");
    const [bar, far, ended, stop] = ["progress", "p span", "p b", "button"].map((name) => box.querySelector(name));
    const button = form.querySelector("[type=submit]");
    const end = (text) => {
      ended.textContent = text; // read aloud; how far it is, is not
      button.disabled = false;
      stop.hidden = true;
    };
    const upload = new tus.Upload(file, {
      endpoint: form.dataset.uploads,
      chunkSize: PART,
      retryDelays: PAUSES,
      removeFingerprintOnSuccess: true,
      headers: { "X-CSRFToken": form.elements.csrfmiddlewaretoken.value },
      metadata: { filename: file.name },
      onProgress(sent, all) {
        bar.value = (100 * sent) / all;
        const [done, whole] = [sent, all].map((bytes) => Math.round(bytes / MEGABYTE).toString());
        far.textContent = box.dataset.sent.replace("{sent}", done).replace("{all}", whole);
      },
      onError(error) {
        const status = error.originalResponse ? error.originalResponse.getStatus() : 0;
        end(status >= 400 && status < 500 ? box.dataset.refused : box.dataset.away);
      },
      onSuccess() {
        form.elements.upload.value = upload.url.split("/").filter(Boolean).pop();
        form.querySelector("[type=file]").disabled = true;
        form.submit();
      },
    });
    stop.onclick = () => upload.abort().then(() => end(box.dataset.stopped));
    ended.textContent = "";
    box.hidden = stop.hidden = false;
    button.disabled = true;
    upload.findPreviousUploads().then((found) => {
      if (found.length) upload.resumeFromPreviousUpload(found[0]);
      upload.start();
    });
  }

  document.addEventListener("submit", (event) => {
    const form = event.target;
    const field = form.dataset.uploads && form.querySelector("[type=file]");
    const file = field && field.files[0];
    if (!file || file.size <= SMALL) return;
    event.preventDefault();
    send(form, file);
  });

  // A page that the browser's Back shows again sends nothing of before.
  window.addEventListener("pageshow", () => {
    for (const form of document.querySelectorAll("form[data-uploads]")) {
      form.elements.upload.value = "";
      form.querySelector("[type=file]").disabled = false;
    }
  });
})();
