//! What people see who tell fewer colours apart.

/// Machado, Oliveira and Fernandes 2009, severity 1.0, in linear RGB.
pub const DEFICIENCIES: [(&str, [f64; 9]); 3] = [
    ("protan", [0.152_286, 1.052_583, -0.204_868, 0.114_503, 0.786_281, 0.099_216, -0.003_882, -0.048_116, 1.051_998]),
    ("deutan", [0.367_322, 0.860_646, -0.227_968, 0.280_085, 0.672_501, 0.047_413, -0.011_82, 0.042_94, 0.968_881]),
    ("tritan", [1.255_528, -0.076_749, -0.178_779, -0.078_411, 0.930_809, 0.147_602, 0.004_733, 0.691_367, 0.303_9]),
];

/// A pixel of gamma-encoded sRGB as it is seen with a deficiency; the model is of linear light.
pub fn seen_with(matrix: &[f64; 9], pixel: [f64; 3]) -> [f64; 3] {
    let linear = pixel.map(|c| if c <= 0.04045 { c / 12.92 } else { ((c + 0.055) / 1.055).powf(2.4) });
    std::array::from_fn(|row| {
        let c: f64 = (0..3).map(|i| matrix[row * 3 + i] * linear[i]).sum::<f64>().clamp(0.0, 1.0);
        if c <= 0.003_130_8 { c * 12.92 } else { 1.055 * c.powf(1.0 / 2.4) - 0.055 }
    })
}
