using System.Runtime.InteropServices;

namespace PreciseBeacon.Core.Reports;

/// <summary>Numbers one after another, the least octet first.</summary>
internal static class Packed
{
    public static T[] Read<T>(BinaryReader reader, int count)
        where T : unmanaged
    {
        var values = new T[count];
        reader.BaseStream.ReadExactly(MemoryMarshal.AsBytes(values.AsSpan()));
        return values;
    }

    public static void Write<T>(BinaryWriter writer, ReadOnlySpan<T> values)
        where T : unmanaged => writer.Write(MemoryMarshal.AsBytes(values));
}
