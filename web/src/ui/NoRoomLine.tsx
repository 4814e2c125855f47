/** The device takes no more: said where somebody types. */
export function NoRoomLine() {
  return (
    <p className="fault" role="alert" data-no-room>
      Device storage is full: new entries are lost if you reload. Save as a file, or free some space.
    </p>
  );
}
