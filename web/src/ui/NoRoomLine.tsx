/** The device takes no more: said where somebody types. */
export function NoRoomLine() {
  return (
    <p className="fault" role="alert" data-no-room>
      This device is full: what you type now is not kept over a reload. Save it as a file, or make room and go on.
    </p>
  );
}
