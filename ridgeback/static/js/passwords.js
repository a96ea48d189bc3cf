// A password is shown as it is typed, for as long as its button is pressed in; a form that is sent hides it first.
document.addEventListener("DOMContentLoaded", () => {
  for (const button of document.querySelectorAll(".show-password")) {
    const field = document.getElementById(button.getAttribute("aria-controls"));
    const show = (shown) => {
      field.type = shown ? "text" : "password";
      button.setAttribute("aria-pressed", String(shown));
    };
    button.hidden = false;
    button.addEventListener("click", () => show(field.type === "password"));
    field.form.addEventListener("submit", () => show(false));
  }
});
