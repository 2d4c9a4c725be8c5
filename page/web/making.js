// Maps made from the form, watched while they grow.
import { ask } from "./ask.js";
import { Scene } from "./scene.js";

export async function makeMap(page) {
  await page.idle();
  try {
    const { exit, error, text, replay } = await ask("make", { ask: page.forms.words("generate", page, "") });
    if (exit !== 0) throw new Error(error ?? text);
    if (await page.setMap(replay.scenario, "made.toml")) await watch(page, replay.moments);
    page.say(text);
  } catch (error) {
    page.say(error.message, true);
  }
}

// The moments of its making, over the map that it became.
async function watch(page, moments) {
  const { scene, view } = page;
  const { shown } = view;
  for (const moment of moments) {
    if (page.scene !== scene) return;  // the map was changed meanwhile
    const stage = Object.assign(Object.create(Scene.prototype), scene, { costs: new Int32Array(scene.count).fill(1) });
    stage.setGround(moment, moment.kinds);
    view.shown = {};
    view.show(stage);
    await new Promise((done) => setTimeout(done, 60));
  }
  view.shown = shown;
  view.show(scene);
}
