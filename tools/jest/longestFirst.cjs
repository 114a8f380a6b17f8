const Sequencer = require('@jest/test-sequencer').default;

/** Rooms whose files take longest, and mostly wait: begun last, one of them would end long after the others. */
const FIRST = ['tools', 'server', 'app'];

/** Jest's own order (what failed, what was slow, what is large) within each room. */
module.exports = class LongestFirst extends Sequencer {
  sort(tests) {
    const place = ({ context }) => {
      const at = FIRST.indexOf(context.config.displayName.name);
      return at < 0 ? FIRST.length : at;
    };
    return super.sort(tests).sort((a, b) => place(a) - place(b));
  }
};
