// The front: how much longer for how much less exposure. A point is a route to pick.

export function drawFront(svg, front, chosen, pick) {
  const [width, height, pad] = [280, 170, 34];
  svg.setAttribute("viewBox", `0 0 ${width} ${height}`);
  svg.replaceChildren();
  const add = (tag, attributes, text = "") => {
    const element = document.createElementNS("http://www.w3.org/2000/svg", tag);
    for (const [name, value] of Object.entries(attributes)) element.setAttribute(name, value);
    element.textContent = text;
    return svg.appendChild(element);
  };
  const range = (values) => [Math.min(...values), Math.max(...values)];
  const [cheapest, costliest] = range(front.map((route) => route.cost));
  const [safest, worst] = range(front.map((route) => route.exposure));
  const place = (value, least, most, from, to) => (most > least ? from + ((value - least) / (most - least)) * (to - from)
                                                                : (from + to) / 2);
  const x = (route) => place(route.cost, cheapest, costliest, pad + 6, width - 14);
  const y = (route) => place(route.exposure, safest, worst, height - pad - 6, 14);
  add("path", { class: "axis", d: `M${pad} 8V${height - pad}H${width - 6}` });
  add("text", { x: width - 6, y: height - 6, "text-anchor": "end" }, `cost ${cheapest} to ${costliest}`);
  add("text", { x: 4, y: height - 6 }, `exposure ${safest} to ${worst}`);
  add("polyline", { class: "front", points: front.map((route) => `${x(route)},${y(route)}`).join(" ") });
  front.forEach((route, number) => {
    const point = add("circle", { cx: x(route), cy: y(route), r: number === chosen ? 7 : 5, tabindex: 0, role: "button",
                                  class: number === chosen ? "chosen" : "point" });
    const name = `cost ${route.cost}, exposure ${route.exposure}`;
    point.setAttribute("aria-label", name);
    point.append(Object.assign(document.createElementNS("http://www.w3.org/2000/svg", "title"), { textContent: name }));
    point.onclick = () => pick(number);
    point.onkeydown = (event) => {
      if (event.key === "Enter" || event.key === " ") {
        event.preventDefault();
        pick(number);
      }
    };
  });
}
