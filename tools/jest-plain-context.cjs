// Jest's Node environment in a context whose global object nobody stands before. In the usual one every mention of `Math` or
// `Float32Array` asks an interceptor first, which makes arithmetic about ten times slower than it is where it is used.
const vm = require('node:vm');
const { TestEnvironment } = require('jest-environment-node');

module.exports = class PlainContext extends TestEnvironment {
  constructor(config, context) {
    const { createContext } = vm;
    vm.createContext = () => createContext(vm.constants.DONT_CONTEXTIFY);
    try {
      super(config, context);
    } finally {
      vm.createContext = createContext;
    }
  }
};
