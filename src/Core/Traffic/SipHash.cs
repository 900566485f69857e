using System.Buffers.Binary;
using System.Numerics;

namespace PreciseBeacon.Core.Traffic;

/// <summary>
/// SipHash-2-4 with 128 bits of output, a keyed pseudo-random function made for short inputs (Aumasson and Bernstein,
/// “SipHash: a fast short-input PRF”, 2012). HMAC-SHA-256 costs a call into the platform's library for each visitor,
/// which is a third of a whole redirect.
/// </summary>
public static class SipHash
{
    public const int KeyLength = 16;

    /// <summary>The hash of a text under a key.</summary>
    /// <param name="key">16 octets; further ones are not looked at.</param>
    /// <param name="text">Any octets.</param>
    /// <param name="hash">Receives 16 octets.</param>
    public static void Hash(ReadOnlySpan<byte> key, ReadOnlySpan<byte> text, Span<byte> hash)
    {
        ulong k0 = BinaryPrimitives.ReadUInt64LittleEndian(key);
        ulong k1 = BinaryPrimitives.ReadUInt64LittleEndian(key[8..]);
        ulong v0 = k0 ^ 0x736f6d6570736575;
        ulong v1 = k1 ^ 0x646f72616e646f6d ^ 0xee;
        ulong v2 = k0 ^ 0x6c7967656e657261;
        ulong v3 = k1 ^ 0x7465646279746573;

        var rest = text;
        for (; rest.Length >= 8; rest = rest[8..])
        {
            Absorb(BinaryPrimitives.ReadUInt64LittleEndian(rest), ref v0, ref v1, ref v2, ref v3);
        }

        ulong last = (ulong)text.Length << 56;
        for (int i = 0; i < rest.Length; i++)
        {
            last |= (ulong)rest[i] << (8 * i);
        }

        Absorb(last, ref v0, ref v1, ref v2, ref v3);
        v2 ^= 0xee;
        Rounds(4, ref v0, ref v1, ref v2, ref v3);
        BinaryPrimitives.WriteUInt64LittleEndian(hash, v0 ^ v1 ^ v2 ^ v3);
        v1 ^= 0xdd;
        Rounds(4, ref v0, ref v1, ref v2, ref v3);
        BinaryPrimitives.WriteUInt64LittleEndian(hash[8..], v0 ^ v1 ^ v2 ^ v3);
    }

    private static void Absorb(ulong word, ref ulong v0, ref ulong v1, ref ulong v2, ref ulong v3)
    {
        v3 ^= word;
        Rounds(2, ref v0, ref v1, ref v2, ref v3);
        v0 ^= word;
    }

    private static void Rounds(int count, ref ulong v0, ref ulong v1, ref ulong v2, ref ulong v3)
    {
        for (int i = 0; i < count; i++)
        {
            v0 += v1;
            v1 = BitOperations.RotateLeft(v1, 13) ^ v0;
            v0 = BitOperations.RotateLeft(v0, 32);
            v2 += v3;
            v3 = BitOperations.RotateLeft(v3, 16) ^ v2;
            v0 += v3;
            v3 = BitOperations.RotateLeft(v3, 21) ^ v0;
            v2 += v1;
            v1 = BitOperations.RotateLeft(v1, 17) ^ v2;
            v2 = BitOperations.RotateLeft(v2, 32);
        }
    }
}
