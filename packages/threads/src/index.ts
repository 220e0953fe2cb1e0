export { ThreadAside } from './ThreadAside';
