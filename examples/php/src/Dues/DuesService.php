<?php

declare(strict_types=1);

namespace Quayside\Dues;

use Quayside\Main\Registry;

final class DuesService
{
    public function of(string $vessel): int
    {
        $sum = 0;
        foreach (Registry::bookings()->of($vessel) as $booking) {
            $sum += $booking->nights() * 1200;
        }

        return $sum;
    }
}
