import { keepRefresh } from '../../shell/RefreshSwitch'
import { FirstPage } from './FirstPage'

/** The way to another refresh. */
export function NewRefreshPage() {
  return (
    <FirstPage
      isFirst={false}
      chosen={(key) => {
        keepRefresh(key)
        // The bar and all pages begin anew with it.
        window.location.assign('/refresh')
      }}
    />
  )
}
