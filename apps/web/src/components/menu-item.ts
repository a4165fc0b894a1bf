/** How an entry of any menu looks. */
export const MENU_ITEM = 'block cursor-pointer px-3 py-1 outline-none data-[highlighted]:bg-water';
