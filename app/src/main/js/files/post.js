/**
 * Asks the house, with the token that its forms have.
 *
 * @param {string} address
 * @param {Record<string, string | Blob>} fields
 * @returns {Promise<{said?: any, why?: string}>} what it said; or why not, in a sentence
 */
export async function post(address, fields) {
  const body = new FormData();
  for (const [name, value] of Object.entries(fields)) {
    body.append(name, value);
  }
  try {
    const { header, token } = await (await fetch("/token")).json();
    const headers = { accept: "application/json", [header]: token };
    const answer = await fetch(address, { method: "POST", body, headers });
    const said = await answer.json();
    return answer.ok
      ? { said }
      : { why: said.why ?? "That file cannot be taken: it may be larger than 16 MB." };
  } catch {
    return { why: "There is no answer: look whether Ancora runs, then try again." };
  }
}
