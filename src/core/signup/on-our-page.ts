/** Goes along where a form on a page of ours is sent as a page: there it is answered by a page of ours as well. */
export const ON_OUR_PAGE = 'askbox-here'
