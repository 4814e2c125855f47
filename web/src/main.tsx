import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { App, newClient } from "./app/App";
import { applyStoredHand, applyStoredLight } from "./app/light";
import { fetchFirst } from "./app/routes";
import { registerWorker } from "./app/update";
import { nextTask } from "./timers";
import "./app/theme.css";

async function begin(root: HTMLElement): Promise<void> {
  applyStoredLight();
  applyStoredHand();
  fetchFirst();
  await nextTask();
  createRoot(root).render(
    <StrictMode>
      <App client={newClient()} />
    </StrictMode>,
  );
  registerWorker();
}

const root = document.getElementById("root");
if (!root) throw new Error("index.html holds no #root");
void begin(root);
