using System.Runtime.InteropServices;
using System.Text;
using PreciseBeacon.Core.Codes;

namespace PreciseBeacon.Web.Codes;

/// <summary>Reads codes with zbar, which shares nothing with what draws them (Debian's libzbar0).</summary>
public static partial class CodeReader
{
    private const string Library = "libzbar.so.0";
    private const int AnyKind = 0;
    private const int QrCode = 64;
    private const int Enable = 0;

    /// <summary>Eight bits of grey to a dot, "Y800".</summary>
    private const uint Greys = 'Y' | ('8' << 8) | ('0' << 16) | ((uint)'0' << 24);

    private static readonly Lazy<bool> Installed = new(() => NativeLibrary.TryLoad(Library, out _));

    /// <summary>False where the reader is not installed.</summary>
    public static bool IsThere => Installed.Value;

    /// <summary>What the codes on a picture say, in no order.</summary>
    public static IReadOnlyList<string> Read(ScanTrial picture)
    {
        nint scanner = CreateScanner();
        nint image = CreateImage();
        var dots = GCHandle.Alloc(picture.Greys, GCHandleType.Pinned);
        try
        {
            _ = Configure(scanner, AnyKind, Enable, 0);
            _ = Configure(scanner, QrCode, Enable, 1);
            SetFormat(image, Greys);
            SetSize(image, (uint)picture.Width, (uint)picture.Height);
            SetData(image, dots.AddrOfPinnedObject(), (nuint)picture.Greys.Length, 0);
            _ = Scan(scanner, image);
            var found = new List<string>();
            for (nint symbol = FirstSymbol(image); symbol != 0; symbol = NextSymbol(symbol))
            {
                byte[] says = new byte[DataLength(symbol)];
                Marshal.Copy(Data(symbol), says, 0, says.Length);
                found.Add(Encoding.UTF8.GetString(says));
            }

            return found;
        }
        finally
        {
            DestroyImage(image);
            DestroyScanner(scanner);
            dots.Free();
        }
    }

    [LibraryImport(Library, EntryPoint = "zbar_image_scanner_create")]
    private static partial nint CreateScanner();

    [LibraryImport(Library, EntryPoint = "zbar_image_scanner_destroy")]
    private static partial void DestroyScanner(nint scanner);

    [LibraryImport(Library, EntryPoint = "zbar_image_scanner_set_config")]
    private static partial int Configure(nint scanner, int kind, int setting, int value);

    [LibraryImport(Library, EntryPoint = "zbar_image_create")]
    private static partial nint CreateImage();

    [LibraryImport(Library, EntryPoint = "zbar_image_destroy")]
    private static partial void DestroyImage(nint image);

    [LibraryImport(Library, EntryPoint = "zbar_image_set_format")]
    private static partial void SetFormat(nint image, uint format);

    [LibraryImport(Library, EntryPoint = "zbar_image_set_size")]
    private static partial void SetSize(nint image, uint width, uint height);

    [LibraryImport(Library, EntryPoint = "zbar_image_set_data")]
    private static partial void SetData(nint image, nint data, nuint length, nint cleanUp);

    [LibraryImport(Library, EntryPoint = "zbar_scan_image")]
    private static partial int Scan(nint scanner, nint image);

    [LibraryImport(Library, EntryPoint = "zbar_image_first_symbol")]
    private static partial nint FirstSymbol(nint image);

    [LibraryImport(Library, EntryPoint = "zbar_symbol_next")]
    private static partial nint NextSymbol(nint symbol);

    [LibraryImport(Library, EntryPoint = "zbar_symbol_get_data")]
    private static partial nint Data(nint symbol);

    [LibraryImport(Library, EntryPoint = "zbar_symbol_get_data_length")]
    private static partial uint DataLength(nint symbol);
}
