package ancora.app.safety;

import com.google.zxing.BarcodeFormat;
import com.google.zxing.EncodeHintType;
import com.google.zxing.WriterException;
import com.google.zxing.common.BitMatrix;
import com.google.zxing.qrcode.QRCodeWriter;
import java.util.Map;

/**
 * An address as a QR code (ISO/IEC 18004), to be read by a camera.
 *
 * @param modules which of its squares are dark, with the light edge around it
 */
record QrCode(BitMatrix modules) {

  /** The light edge that the standard asks for, in modules. */
  private static final int EDGE = 4;

  static QrCode of(String address) {
    try {
      return new QrCode(
          new QRCodeWriter()
              .encode(address, BarcodeFormat.QR_CODE, 0, 0, Map.of(EncodeHintType.MARGIN, EDGE)));
    } catch (WriterException tooLong) {
      throw new IllegalArgumentException(address, tooLong);
    }
  }

  /** So many modules wide and high. */
  public int size() {
    return modules.getWidth();
  }

  private boolean isDark(int x, int y) {
    return y < size() && modules.get(x, y);
  }

  /** The outline of its dark squares, for the {@code d} of an SVG path, a module being 1 wide. */
  public String path() {
    StringBuilder path = new StringBuilder();
    for (int y = 0; y < size(); y++) {
      for (int x = 0; x < size(); x++) {
        path.append(isDark(x, y) ? "M%d %dh1v1h-1z".formatted(x, y) : "");
      }
    }
    return path.toString();
  }

  /** In letters, two modules high each: light ones are drawn, since terminals are mostly dark. */
  String inLetters() {
    StringBuilder text = new StringBuilder();
    for (int y = 0; y < size(); y += 2) {
      for (int x = 0; x < size(); x++) {
        boolean upper = !isDark(x, y);
        boolean lower = y + 1 < size() && !isDark(x, y + 1);
        text.append(upper ? lower ? '█' : '▀' : lower ? '▄' : ' ');
      }
      text.append(System.lineSeparator());
    }
    return text.toString();
  }
}
