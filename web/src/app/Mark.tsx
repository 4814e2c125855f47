/** Our sign: the stone boat, upturned, two courses of masonry. */
export function Mark({ size = 44 }: { size?: number }) {
  return (
    <svg
      viewBox="0 0 44 30"
      width={size}
      height={(size * 30) / 44}
      fill="none"
      stroke="currentColor"
      aria-hidden="true"
    >
      <path d="M2 25C7 8 16 4 24 4s14 5 18 21Z" strokeWidth="2.6" />
      <path d="M10 25v-6h7v6M24 11h7v6h-7z" strokeWidth="2" />
    </svg>
  );
}
