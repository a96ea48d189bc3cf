// The entries of a round that wait on this phone: what is sent, in which order, and what becomes of each. No page in here.
((root) => {
  const queue = {
    // An entry with its key and its moment; both are made once, when it is pressed.
    made(what, fields, now, key) {
      return { key, at: now.toISOString(), what, ...fields };
    },
    // The list with one more; the same press twice is one.
    added(list, entry) {
      return list.some((one) => one.key === entry.key) ? list : [...list, entry];
    },
    // What is sent at once: the oldest first, and what a question waits for is not sent again until it is answered.
    batch(list, most = 100) {
      return list.filter((one) => !one.asked).slice(0, most).map(({ asked, failed, ...entry }) => entry);
    },
    // The list after the server's answers: what is written or known there is gone; what is asked or refused waits for the keeper.
    after(list, answers) {
      const states = new Map(answers.map((one) => [one.key, one]));
      return list.flatMap((one) => {
        const answer = states.get(one.key);
        if (!answer) return [one];
        if (answer.state === "asked") return [{ ...one, asked: answer.said }];
        return answer.state === "refused" ? [{ ...one, asked: answer.said, failed: true }] : [];
      });
    },
    // The list without one that the keeper has done with.
    without(list, key) {
      return list.filter((one) => one.key !== key);
    },
    // A doubted entry that the keeper is sure of: another press, for its first one was answered.
    sure(list, key, fresh) {
      return list.map((one) => {
        if (one.key !== key) return one;
        const { asked, ...rest } = one;
        return { ...rest, key: fresh, sure: true };
      });
    },
  };
  root.roundQueue = queue;
  if (typeof module !== "undefined") module.exports = queue;
})(typeof window === "undefined" ? globalThis : window);
