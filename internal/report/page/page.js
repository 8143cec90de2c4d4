"use strict";
(() => {
  const form = document.querySelector(".filter");
  if (!form) return;
  form.hidden = false;
  const search = document.getElementById("search"), fold = document.getElementById("fold"), shown = document.getElementById("shown");
  const boxes = [...form.querySelectorAll("input[type=checkbox]")];
  const rows = [...document.querySelectorAll(".rows tbody tr")];
  const findings = [...document.querySelectorAll(".finding")];
  const models = [...document.querySelectorAll(".model")];
  const there = new Set([...rows, ...findings].map((e) => e.dataset.level));
  for (const box of boxes) box.parentElement.hidden = !there.has(box.value);
  const text = new Map();
  for (const e of [...rows, ...findings]) text.set(e, (e.textContent + " " + (e.closest(".model")?.querySelector("h3").textContent ?? "")).toLowerCase());
  const apply = () => {
    const words = search.value.toLowerCase().split(/\s+/).filter(Boolean);
    const levels = new Set(boxes.filter((b) => b.checked).map((b) => b.value));
    const keep = (e) => levels.has(e.dataset.level) && words.every((w) => text.get(e).includes(w));
    for (const e of [...rows, ...findings]) e.toggleAttribute("data-away", !keep(e));
    for (const m of models) m.toggleAttribute("data-away", m.querySelector(".finding") !== null && !m.querySelector(".finding:not([data-away])"));
    const n = findings.filter((e) => !e.hasAttribute("data-away")).length;
    shown.textContent = n === findings.length ? "" : `${n} of ${findings.length} findings`;
  };
  form.addEventListener("input", apply);
  form.addEventListener("submit", (e) => e.preventDefault());
  fold.addEventListener("click", () => {
    const close = fold.getAttribute("aria-pressed") === "false";
    for (const m of models) m.open = !close;
    fold.setAttribute("aria-pressed", String(close));
    fold.textContent = close ? "Unfold all" : "Fold all";
  });
  const follow = () => {
    const at = location.hash.length > 1 && document.getElementById(location.hash.slice(1));
    const model = at && at.closest(".model");
    if (model) { model.open = true; at.scrollIntoView(); }
  };
  addEventListener("hashchange", follow);
  addEventListener("beforeprint", () => { for (const d of document.querySelectorAll("details")) d.open = true; });
  follow();
})();
