"use strict";(()=>{(()=>{let e=localStorage.getItem("theme"),t=e?e==="dark":matchMedia("(prefers-color-scheme: dark)").matches;document.documentElement.dataset.theme=t?"dark":"light"})();})();
