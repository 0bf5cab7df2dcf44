<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Hardware\InterfaceDesk;
use App\Http\AddressNumber;
use Hafen\Document\InvalidDocument;
use Hafen\Hardware\MicrophoneRefused;
use Hafen\Hardware\Plug\MicrophonePipe;
use Hafen\Hardware\PlugKind;
use Illuminate\Http\Request;
use Illuminate\Http\Response;

/** Takes in what the microphone of a browser hears, piece by piece: 32-bit floats, the lowest byte first. */
final readonly class MicrophoneController
{
    private const MOST = 999_999_999_999_999;

    public function __construct(private InterfaceDesk $desk)
    {
    }

    public function store(Request $request, int $port): Response
    {
        if (($this->desk->profile()->inputs[$port] ?? null)?->plug !== PlugKind::Microphone) {
            throw MicrophoneRefused::notPlugged($port);
        }
        $id = $request->query('id');
        $samples = (string) $request->getContent();
        if (! is_string($id) || preg_match('/^[0-9a-f]{16}$/', $id) !== 1) {
            throw InvalidDocument::at('id', 'Allowed are 16 letters of 0 to 9 and a to f: the name of the capture');
        }
        if ($samples === '' || strlen($samples) % 4 !== 0 || strlen($samples) > 4 * MicrophonePipe::LONGEST_PIECE) {
            throw InvalidDocument::at('body', 'Found '.strlen($samples).' bytes; allowed are samples of 4 bytes, 1 to '.MicrophonePipe::LONGEST_PIECE.' of them');
        }
        $heard = $request->query('heard');
        $this->desk->microphone($port)->write(
            $id,
            self::number($request, 'rate', 8000, 384_000),
            self::number($request, 'first', 0, self::MOST),
            $samples,
            self::number($request, 'captured', 0, self::MOST) / 1000.0,
            is_string($heard) && is_numeric($heard) && is_finite((float) $heard) ? (float) $heard : null,
        );

        return new Response('', 204);
    }

    private static function number(Request $request, string $key, int $least, int $most): int
    {
        return AddressNumber::optional($request, $key, $least, $most) ?? throw InvalidDocument::at($key, "Left out; needed is a whole number from {$least} to {$most}");
    }
}
