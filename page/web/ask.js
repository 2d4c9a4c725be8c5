// Asks the program that serves this page. Only the latest of questions that wait is asked.

export async function ask(name, question) {
  let response;
  try {
    response = await fetch(name, {
      method: "POST", headers: { "Content-Type": "application/json" }, body: JSON.stringify(question),
    });
  } catch {
    throw new Error("the program does not answer: it may have ended");
  }
  if (response.headers.get("Content-Type")?.startsWith("image/")) return response.blob();
  if (response.status === 413) throw new Error("the map is too large to be sent");
  const text = await response.text();
  let reply;
  try {
    reply = JSON.parse(text);
  } catch {
    throw new Error(`the program answered ${response.status}: ${text.trim()}`);
  }
  if (reply.error !== undefined) throw new Error(reply.error);
  return reply;
}

// Words as one types them in a shell.
export function commandLine(words, file) {
  const quoted = (word) => (/^[A-Za-z0-9_.,:\/=+-]+$/.test(word) ? word : `'${word.replaceAll("'", "'\\''")}'`);
  const [command, ...rest] = words;
  return ["saunter", command, ...(command === "generate" ? [] : [file]), ...rest].map(quoted).join(" ");
}

export function download(name, content, type = "text/plain") {
  const blob = content instanceof Blob ? content : new Blob([content], { type });
  const link = Object.assign(document.createElement("a"), { href: URL.createObjectURL(blob), download: name });
  document.body.append(link);
  link.click();
  link.remove();
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}
