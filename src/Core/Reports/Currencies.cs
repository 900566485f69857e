using System.Collections.Frozen;

namespace PreciseBeacon.Core.Reports;

/// <summary>The currencies of ISO 4217 in use (list one, as of 2026, funds and precious metals left out; from memory).</summary>
public static class Currencies
{
    private static readonly FrozenSet<string> Known = """
        AED AFN ALL AMD AOA ARS AUD AWG AZN BAM BBD BDT BGN BHD BIF BMD BND BOB BRL BSD BTN BWP BYN BZD CAD CDF CHF CLP CNY COP CRC CUP CVE CZK
        DJF DKK DOP DZD EGP ERN ETB EUR FJD FKP GBP GEL GHS GIP GMD GNF GTQ GYD HKD HNL HTG HUF IDR ILS INR IQD IRR ISK JMD JOD JPY KES KGS KHR
        KMF KPW KRW KWD KYD KZT LAK LBP LKR LRD LSL LYD MAD MDL MGA MKD MMK MNT MOP MRU MUR MVR MWK MXN MYR MZN NAD NGN NIO NOK NPR NZD OMR PAB
        PEN PGK PHP PKR PLN PYG QAR RON RSD RUB RWF SAR SBD SCR SDG SEK SGD SHP SLE SOS SRD SSP STN SVC SYP SZL THB TJS TMT TND TOP TRY TTD TWD
        TZS UAH UGX USD UYU UZS VES VND VUV WST XAF XCD XCG XOF XPF YER ZAR ZMW ZWG
        """.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries).ToFrozenSet(StringComparer.OrdinalIgnoreCase);

    private static readonly FrozenSet<string> WithoutDecimals = "BIF CLP DJF GNF ISK JPY KMF KRW PYG RWF UGX UYI VND VUV XAF XOF XPF"
        .Split(' ')
        .ToFrozenSet(StringComparer.OrdinalIgnoreCase);

    private static readonly FrozenSet<string> WithThreeDecimals = "BHD IQD JOD KWD LYD OMR TND"
        .Split(' ')
        .ToFrozenSet(StringComparer.OrdinalIgnoreCase);

    /// <summary>Decimals of a currency's minor unit (ISO 4217, list one): 0, 2 or 3; 2 where the currency is not known.</summary>
    public static int DecimalsOf(string code) =>
        WithoutDecimals.Contains(code) ? 0
        : WithThreeDecimals.Contains(code) ? 3
        : 2;

    /// <summary>Whether three letters, whatever their case, are a currency's code.</summary>
    public static bool IsKnown(string code) => Known.Contains(code);
}
