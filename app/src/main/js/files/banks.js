/** Sound banks of one's own, that the house keeps. */

/** The largest that the house takes, in bytes. */
const MOST = 512 * 1024 * 1024;

/** What the browser keeps of the house's banks. */
export const SHELF = "ancora-banks";

const SILENT = "There is no answer: look whether Ancora runs, then try again.";

/**
 * @typedef {{bank: string, file: string, bytes: number,
 *   presets: {drums: boolean, program: number, number: number, name: string}[]}} Bank
 */

/** @returns {Promise<Bank[]>} those that are here; none where the house does not say */
export async function banks() {
  const answer = await fetch("/banks.json").catch(() => null);
  return answer?.ok ? answer.json() : [];
}

/**
 * Brings a bank in.
 *
 * @param {File} file
 * @returns {Promise<{bank?: Bank, why?: string}>} it; or why not, in a sentence
 */
export async function bringBank(file) {
  if (file.size > MOST) {
    return { why: "A sound bank has 512 MB at most: take one with fewer sounds." };
  }
  const name = encodeURIComponent(file.name);
  const answer = await asked(`/banks?file=${name}`, {
    method: "POST",
    body: file,
    headers: { "content-type": "application/octet-stream" },
  });
  const said = await answer?.json().catch(() => null);
  return answer?.ok ? { bank: said } : { why: said?.why ?? SILENT };
}

/** Deletes a bank from the house, and from what this browser keeps. @param {string} bank */
export async function deleteBank(bank) {
  const address = `/banks/${bank}`;
  await asked(address, { method: "DELETE", headers: {} });
  const shelf = await globalThis.caches?.open(SHELF).catch(() => null);
  await shelf?.delete(new URL(address, document.baseURI).href);
}

async function asked(address, how) {
  try {
    const { header, token } = await (await fetch("/token")).json();
    return await fetch(address, {
      ...how,
      headers: { ...how.headers, accept: "application/json", [header]: token },
    });
  } catch {
    return null;
  }
}
