/** The product's mark: two tracks and a switch. */
export function Mark() {
  return (
    <span className="mark">
      <svg width="30" height="20" viewBox="0 0 30 20" aria-hidden="true">
        <path d="M2 16h26M2 16h8l8-9h10" className="mark-track" />
        <circle cx="19" cy="7" r="3.4" className="mark-wagon" />
      </svg>
      Yard Relay
    </span>
  )
}
