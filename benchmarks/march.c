/* The marcher's method written by hand in C, for `make bench` only: what could the compiled Python reach at best?
   Same laws, same arrays, same order of work as core/heat/march.py; no flow paths, no boiling, no evaporation. */
#include <math.h>
#include <stdint.h>
#include <stdlib.h>
#include <string.h>

#define GAMMA (1.0 - 0.70710678118654752440)
#define MOST 24

static const double SIGMA = 5.670374419e-8, CP = 1007.0, PR = 0.71, G = 9.80665, CD = 0.6, CW = 0.3;

static inline double k_air(double c) { return 0.02415 + 7.0e-5 * c; }
static inline double nu_air(double c, double p) { return (1.33e-5 + 9.0e-8 * c + 9.0e-11 * c * c) * 101325.0 / p; }
static inline double rayleigh(double a, double b, double l, double p) {
    double m = 0.5 * (a + b), nu = nu_air(m, p);
    return G * fabs(a - b) * l * l * l * PR / ((m + 273.15) * nu * nu);
}

static inline double conductance(int64_t law, const double *restrict q, double a, double b, double wind, double p) {
    if (law == 1) {
        double x = a + 273.15, y = b + 273.15;
        return SIGMA * q[0] * (x * x + y * y) * (x + y);
    }
    if (law == 4) {
        double ra = rayleigh(a, b, q[1], p), root = sqrt(sqrt(ra)), nu;
        if (q[2] == 0.0) nu = 0.68 + 0.515 * root;
        else if ((a - b) * q[2] > 0.0) nu = ra < 4738381.338321616 ? 0.54 * root : 0.15 * cbrt(ra);
        else nu = 0.27 * root;
        return q[0] * fmax(nu, 1.0) * k_air(0.5 * (a + b)) / q[1];
    }
    if (law == 0) return q[0];
    if (law == 3) {
        double blown = 2.8 + 3.0 * wind * (1.0 - q[1]), r = blown / 1.52, d = fabs(a - b);
        return d > r * r * r ? q[0] * 1.52 * cbrt(d) : q[0] * blown;
    }
    if (law == 2) {
        double nu = 1.0;
        if (a > b) {
            double across = rayleigh(a, b, q[1], p) * q[2];
            if (across > 1708.0) {
                nu += 1.44 * fmax((1.0 - 1708.0 / across) * (1.0 - q[3] / across), 0.0);
                if (across > 5830.0) nu += cbrt(across / 5830.0) - 1.0;
            }
        }
        return q[0] * nu * k_air(0.5 * (a + b)) / q[1];
    }
    double warm = fmax(a, b) + 273.15, blown = CW * wind;
    double v2 = CD * CD * G * q[1] * fabs(a - b) / warm + blown * blown;
    return q[0] / 2.0 * sqrt(v2) * p / (287.05 * (b + 273.15)) * CP;
}

static inline void apply(const double I[MOST][MOST], const double *restrict rhs, int n, double *restrict out) {
    for (int i = 0; i < n; i++) {
        double t = 0.0;
        for (int j = 0; j < n; j++) t += I[i][j] * rhs[j];
        out[i] = t;
    }
}

static inline void assemble(const double *restrict t, const int64_t *law, const uint64_t *start, const uint64_t *end,
                            const double *params, int64_t width, double wind, double pressure, const double *source,
                            int n, int64_t links, double A[MOST][MOST], double *restrict b, double *restrict g) {
    for (int i = 0; i < n; i++) {
        b[i] = source[i];
        for (int j = 0; j < n; j++) A[i][j] = 0.0;
    }
    for (int64_t k = 0; k < links; k++) {
        uint64_t i = start[k], j = end[k];
        double c = conductance(law[k], params + k * width, t[i], t[j], wind, pressure);
        g[k] = c;
        if (i < (uint64_t)n) {
            A[i][i] += c;
            if (j < (uint64_t)n) A[i][j] -= c; else b[i] += c * t[j];
        }
        if (j < (uint64_t)n) {
            A[j][j] += c;
            if (i < (uint64_t)n) A[j][i] -= c; else b[j] += c * t[i];
        }
    }
}

static inline void invert(const double A[MOST][MOST], const double *cap, double scale, double I[MOST][MOST], int n) {
    for (int i = 0; i < n; i++) {
        for (int j = 0; j < n; j++) I[i][j] = scale * A[i][j];
        I[i][i] += cap[i];
    }
    for (int k = 0; k < n; k++) {
        double pivot = 1.0 / I[k][k];
        I[k][k] = 1.0;
        for (int j = 0; j < n; j++) I[k][j] *= pivot;
        for (int i = 0; i < n; i++) {
            double f = I[i][k];
            if (i != k && f != 0.0) {
                I[i][k] = 0.0;
                for (int j = 0; j < n; j++) I[i][j] -= f * I[k][j];
            }
        }
    }
}

static inline void half(const double A[MOST][MOST], const double *push, const double *cap, double h,
                        const double I[MOST][MOST], int n, double *at, double *stage, double *rhs, double *mean,
                        double share) {
    for (int i = 0; i < n; i++) rhs[i] = cap[i] * at[i] + GAMMA * h * push[i];
    apply(I, rhs, n, stage);
    for (int i = 0; i < n; i++) {
        double flow = push[i];
        for (int j = 0; j < n; j++) flow -= A[i][j] * stage[j];
        mean[i] += share * (1.0 - GAMMA) * stage[i];
        rhs[i] = cap[i] * at[i] + (1.0 - GAMMA) * h * flow + GAMMA * h * push[i];
    }
    apply(I, rhs, n, at);
    for (int i = 0; i < n; i++) mean[i] += share * GAMMA * at[i];
}

/* params: rows of `width` doubles, already made ready (cavity: cosine and hump). 0: done; 1: too many nodes. */
int march_c(int64_t steps, int64_t n, int64_t links, int64_t bounds, const double *first, const double *cap,
            const int64_t *law, const uint64_t *start, const uint64_t *end, const double *params, int64_t width,
            const double *boundary, const double *wind, double pressure, const double *source, const double *dt,
            const int64_t *substeps, const int64_t *record, double *temperature, double *energy) {
    if (n > MOST) return 1;
    double now[2 * MOST], mid[2 * MOST], mean[2 * MOST], b[MOST] = {0}, stage[MOST], rhs[MOST];
    double A[MOST][MOST], L[MOST][MOST];
    double *g = malloc(sizeof(double) * links), last_h = 0.0, last_sun = 0.0, last_wind = 0.0;
    memcpy(now, first, n * sizeof(double));
    memcpy(mid, first, n * sizeof(double));
    memcpy(temperature, first, n * sizeof(double));
    memset(energy, 0, sizeof(double) * (record[steps - 1] + 1) * links);
    for (int64_t s = 0; s < steps; s++) {
        for (int i = 0; i < bounds; i++) now[n + i] = mid[n + i] = mean[n + i] = boundary[s * bounds + i];
        double h = dt[s] / substeps[s];
        double *out = energy + record[s] * links, sun = 0.0;
        for (int i = 0; i < n; i++) {
            sun += source[s * n + i];
            b[i] += source[s * n + i] - (s > 0 ? source[(s - 1) * n + i] : 0.0);
        }
        int steady = fabs(sun - last_sun) <= 0.05 * fmax(sun, last_sun) && fabs(wind[s] - last_wind) <= 0.3;
        last_sun = sun;
        last_wind = wind[s];
        for (int64_t part = 0; part < substeps[s]; part++) {
            if (h == last_h && (steady || part > 0)) {
                for (int i = 0; i < n; i++) mid[i] = now[i];
                half(A, b, cap, h / 2.0, L, (int)n, mid, stage, rhs, mean, 0.0);
            } else {
                assemble(now, law, start, end, params, width, wind[s], pressure, source + s * n, (int)n, links, A, b, g);
                invert(A, cap, h / 2.0, L, (int)n);
                for (int i = 0; i < n; i++) rhs[i] = cap[i] * now[i] + h / 2.0 * b[i];
                apply(L, rhs, (int)n, mid);
            }
            assemble(mid, law, start, end, params, width, wind[s], pressure, source + s * n, (int)n, links, A, b, g);
            invert(A, cap, GAMMA * h / 2.0, L, (int)n);
            last_h = h;
            for (int i = 0; i < n; i++) mean[i] = 0.0;
            for (int k = 0; k < 2; k++) half(A, b, cap, h / 2.0, L, (int)n, now, stage, rhs, mean, 0.5);
            for (int64_t k = 0; k < links; k++) out[k] += g[k] * (mean[start[k]] - mean[end[k]]) * h;
        }
        memcpy(temperature + (record[s] + 1) * n, now, n * sizeof(double));
    }
    free(g);
    return 0;
}
